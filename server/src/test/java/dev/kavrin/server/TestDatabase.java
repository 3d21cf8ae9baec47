package dev.kavrin.server;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;
import org.flywaydb.core.Flyway;

/**
 * A database of its own in the PostgreSQL that {@code ./kavrin test} started: a copy of one whose
 * tables were made once, by the migrations that the application has.
 */
final class TestDatabase implements AutoCloseable {
  private static final AtomicInteger COUNT = new AtomicInteger();
  private static final String MADE_ONCE = "test_" + ProcessHandle.current().pid() + "_tables";
  private static boolean made;

  private final String name =
      "test_" + ProcessHandle.current().pid() + "_" + COUNT.incrementAndGet();
  private final String base;
  private final String password;

  private final PausableProxy proxy;

  /**
   * @param pausable true if it can be made to answer nothing
   */
  TestDatabase(boolean pausable) throws IOException, SQLException {
    String folder = System.getenv("KAVRIN_TEST_DIR");
    if (folder == null) {
      throw new IllegalStateException("Run the tests with ./kavrin test: it starts PostgreSQL");
    }
    int port = Integer.parseInt(Files.readString(Path.of(folder, "db.port")).strip());
    this.base = "jdbc:postgresql://127.0.0.1:" + port + "/";
    this.proxy = pausable ? new PausableProxy(port) : null;
    this.password = Files.readString(Path.of(folder, "db.password"));
    synchronized (TestDatabase.class) {
      if (!made) {
        admin("create database " + MADE_ONCE);
        Flyway.configure().dataSource(base + MADE_ONCE, user(), password).load().migrate();
        made = true;
      }
      admin("create database " + name + " template " + MADE_ONCE);
    }
  }

  String url() {
    return proxy == null ? base + name : "jdbc:postgresql://127.0.0.1:" + proxy.port() + "/" + name;
  }

  /** From now on it takes what is sent and answers nothing, as a stopped process does. */
  void pause() {
    proxy.pause();
  }

  void goOn() {
    proxy.goOn();
  }

  String user() {
    return "kavrin";
  }

  String password() {
    return password;
  }

  /** Changes what is recorded, as nobody should. */
  void run(String sql) throws SQLException {
    try (Connection c = DriverManager.getConnection(base + name, user(), password);
        Statement s = c.createStatement()) {
      s.execute(sql);
    }
  }

  long count(String table, String where) throws SQLException {
    try (Connection c = DriverManager.getConnection(base + name, user(), password);
        Statement s = c.createStatement();
        ResultSet rows = s.executeQuery("select count(*) from " + table + " where " + where)) {
      rows.next();
      return rows.getLong(1);
    }
  }

  /** Like an outage: connections are cut and new ones refused. */
  void goAway() throws SQLException {
    admin("alter database " + name + " with allow_connections false");
    admin("select pg_terminate_backend(pid) from pg_stat_activity where datname = '" + name + "'");
  }

  void comeBack() throws SQLException {
    admin("alter database " + name + " with allow_connections true");
  }

  /** Like a lost disk: all records are gone. */
  void wipe() throws SQLException {
    admin("drop database " + name + " with (force)");
    admin("create database " + name);
  }

  private void admin(String sql) throws SQLException {
    try (Connection c = DriverManager.getConnection(base + "postgres", user(), password);
        Statement s = c.createStatement()) {
      s.execute(sql);
    }
  }

  @Override
  public void close() throws SQLException, IOException {
    if (proxy != null) {
      proxy.close();
    }
    admin("drop database if exists " + name + " with (force)");
  }
}
