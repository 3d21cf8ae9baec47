package dev.kavrin.server.platform;

import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Map;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.jdbc.datasource.lookup.AbstractRoutingDataSource;

/**
 * The connections to the records: some for the pages, one of its own for taking journals in. None
 * waits for a database that hangs: connecting, a statement and an answer each have their time.
 */
public final class RecordsSource extends AbstractRoutingDataSource implements AutoCloseable {
  private static final Duration CONNECT = Duration.ofSeconds(5);
  private static final int PAGES = 12;

  private static final ThreadLocal<Boolean> PROJECTING = ThreadLocal.withInitial(() -> false);

  private final HikariDataSource pages;
  private final HikariDataSource projection;

  RecordsSource(Settings settings) {
    pages = pool(settings, PAGES, Duration.ofSeconds(60));
    projection = pool(settings, 1, Duration.ofSeconds(20));
    setTargetDataSources(Map.of(false, pages, true, projection));
    setDefaultTargetDataSource(pages);
    afterPropertiesSet();
  }

  /**
   * @param answer the longest a statement may take; the socket gives up a little later
   */
  private static HikariDataSource pool(Settings settings, int size, Duration answer) {
    HikariDataSource pool = new HikariDataSource();
    pool.setJdbcUrl(settings.databaseUrl());
    pool.setUsername(settings.databaseUser());
    pool.setPassword(settings.databasePassword());
    pool.setMaximumPoolSize(size);
    pool.setMinimumIdle(1);
    pool.setConnectionTimeout(3000);
    pool.setValidationTimeout(2000);
    pool.setInitializationFailTimeout(-1);
    pool.addDataSourceProperty("connectTimeout", seconds(CONNECT));
    pool.addDataSourceProperty("loginTimeout", seconds(CONNECT));
    pool.addDataSourceProperty("socketTimeout", seconds(answer.plusSeconds(5)));
    pool.addDataSourceProperty("cancelSignalTimeout", seconds(CONNECT));
    pool.addDataSourceProperty("tcpKeepAlive", "true");
    pool.addDataSourceProperty("options", "-c statement_timeout=" + answer.toMillis());
    return pool;
  }

  private static String seconds(Duration span) {
    return Long.toString(span.toSeconds());
  }

  @Override
  protected Object determineCurrentLookupKey() {
    return PROJECTING.get();
  }

  /** Does something with the connection that is kept for taking journals in. */
  public void asProjection(Runnable work) {
    PROJECTING.set(true);
    try {
      work.run();
    } finally {
      PROJECTING.remove();
    }
  }

  /**
   * @throws DataAccessResourceFailureException the database does not answer
   */
  public void requireAnswer() {
    try (Connection connection = getConnection()) {
      if (!connection.isValid((int) CONNECT.toSeconds())) {
        throw new DataAccessResourceFailureException("The database does not answer");
      }
    } catch (SQLException away) {
      throw new DataAccessResourceFailureException("The database does not answer", away);
    }
  }

  @Override
  public void close() {
    pages.close();
    projection.close();
  }
}
