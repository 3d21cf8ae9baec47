package dev.kavrin.core.settings;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.sqlite.SQLiteConnection;

/**
 * An SQLite database that holds settings: tables of keys and values, and tables of one row whose
 * columns are the keys. Read from its bytes in memory, so that the file itself is never opened by
 * the library. What its program wrote last may stand in a log beside the file.
 */
final class TableSyntax extends ReadSyntax {
  private static final int MOST = 5_000;

  /** Bytes 18 and 19 tell of a log beside it; "SQLite Database File Format", section 1.3.3. */
  private static final int LOG_MODE = 18;

  private static final Pattern KEYS =
      Pattern.compile("(?i)key|name|setting|option|id|.*_(key|name)");
  private static final Pattern VALUES = Pattern.compile("(?i)val|value|data|content|.*_value");

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    byte[] bytes = text.getBytes(StandardCharsets.ISO_8859_1);
    if (!text.startsWith("SQLite format 3\0") || bytes.length < 100) {
      throw new SettingsException("It does not begin like an SQLite database");
    }
    bytes[LOG_MODE] = 1;
    bytes[LOG_MODE + 1] = 1;
    try (Connection database = DriverManager.getConnection("jdbc:sqlite::memory:")) {
      database.unwrap(SQLiteConnection.class).deserialize("main", bytes);
      List<SettingsEntry> entries = new ArrayList<>();
      for (String table : tables(database)) {
        read(database, table, entries);
      }
      return entries;
    } catch (SQLException broken) {
      throw new SettingsException("It cannot be read as a database: " + broken.getMessage());
    }
  }

  private static List<String> tables(Connection database) throws SQLException {
    List<String> names = new ArrayList<>();
    try (Statement ask = database.createStatement();
        ResultSet all =
            ask.executeQuery(
                "select name from sqlite_master where type = 'table'"
                    + " and name not like 'sqlite_%' order by name")) {
      while (all.next()) {
        names.add(all.getString(1));
      }
    }
    return names;
  }

  private static void read(Connection database, String table, List<SettingsEntry> entries)
      throws SQLException {
    try (Statement ask = database.createStatement();
        ResultSet rows =
            ask.executeQuery(
                "select * from \"%s\" limit %d".formatted(table.replace("\"", "\"\""), MOST))) {
      ResultSetMetaData columns = rows.getMetaData();
      int key = first(columns, KEYS, 0);
      int value = first(columns, VALUES, key);
      List<SettingsEntry> found = new ArrayList<>();
      int count = 0;
      while (rows.next() && found.size() < MOST) {
        count++;
        if (key > 0 && value > 0) {
          found.add(entry(table + "/" + rows.getString(key), said(rows, value)));
        } else if (count == 1) {
          for (int i = 1; i <= columns.getColumnCount(); i++) {
            found.add(entry(table + "/" + columns.getColumnName(i), said(rows, i)));
          }
        }
      }
      if (key > 0 && value > 0 || count == 1) {
        entries.addAll(found);
      }
    }
  }

  /** The first column of such a name; 0 if there is none. */
  private static int first(ResultSetMetaData columns, Pattern name, int but) throws SQLException {
    for (int i = 1; i <= columns.getColumnCount(); i++) {
      if (i != but && name.matcher(columns.getColumnName(i)).matches()) {
        return i;
      }
    }
    return 0;
  }

  private static String said(ResultSet row, int column) throws SQLException {
    String text = row.getString(column);
    return text == null ? "" : text;
  }
}
