package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** Records outlive the program that wrote them, forwards; backwards is refused in words. */
class UpgradeTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private void sql(String... statements) throws SQLException {
    try (Connection c =
            DriverManager.getConnection(
                app.database().url(), app.database().user(), app.database().password());
        Statement s = c.createStatement()) {
      for (String statement : statements) {
        s.execute(statement);
      }
    }
  }

  @Test
  void recordsOfANewerKavrinAreLeftAsTheyAre() throws Exception {
    app.stop();
    sql(
        "insert into flyway_schema_history"
            + " (installed_rank, version, description, type, script, checksum, installed_by,"
            + " execution_time, success) values (999, '999', 'of tomorrow', 'SQL',"
            + " 'V999__of_tomorrow.sql', 1, 'kavrin', 1, true)");
    assertThatThrownBy(app::start)
        .isInstanceOf(NewerRecordsException.class)
        .hasMessageContaining("change 999")
        .hasMessageContaining("Nothing was changed");
    sql("delete from flyway_schema_history where version = '999'");
    app.start();
    assertThat(app.client().get("/api/overview").status()).isEqualTo(200);
  }

  @Test
  void whoWasInBeforePeopleHadRolesMayEverythingAfterwards() throws Exception {
    app.stop();
    // The records as they were before people had roles, with a person and a session in them.
    sql(
        "drop table invitation",
        "drop table role_grant",
        "alter table session drop column uuid, drop column seen_from, drop column browser",
        "alter table person drop column password_hash, drop column created, drop column removed",
        "drop table free_room",
        "alter table content drop column checks",
        "delete from flyway_schema_history where version in ('9', '10')",
        "insert into person (name) values ('Tarek Osei')");
    app.start();
    assertThat(app.client().get("/api/session").json().path("everywhere").asString())
        .isEqualTo("ADMINISTER");
    assertThat(app.client().get("/api/people").body()).contains("Tarek Osei", "ADMINISTER");
  }
}
