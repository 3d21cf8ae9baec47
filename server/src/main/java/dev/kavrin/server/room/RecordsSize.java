package dev.kavrin.server.room;

import java.util.Optional;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** What the database takes of a disk. */
@Component
class RecordsSize {
  private final JdbcTemplate jdbc;

  RecordsSize(JdbcTemplate jdbc) {
    this.jdbc = jdbc;
  }

  /** Empty while it does not answer. */
  Optional<Long> bytes() {
    try {
      return Optional.ofNullable(
          jdbc.queryForObject("select pg_database_size(current_database())", Long.class));
    } catch (DataAccessException away) {
      return Optional.empty();
    }
  }
}
