package dev.kavrin.core.content.database;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.disk.ScratchFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * SQLite databases: the size its header tells, then the library's own integrity check, on a private
 * copy so that the file itself is never opened by it. Source: "SQLite Database File Format",
 * sections 1.3.2, 1.3.7, 1.3.8.
 */
public final class SqliteReader implements ContentReader {
  private static final byte[] MAGIC = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);
  private static final int HEADER = 100;
  private static final long LARGEST_COPY = 2_000_000_000;
  private static final int MOST_TABLES = 1_000;

  @Override
  public boolean reads(String ext) {
    return List.of("sqlite", "sqlite3", "db").contains(ext);
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= MAGIC.length
        && Arrays.equals(Arrays.copyOf(head.array(), MAGIC.length), MAGIC);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("sqlite");
    long size = in.size();
    if (size == 0) {
      return readings.empty();
    }
    if (size < HEADER) {
      return readings.cutShort(size, "Cut short inside its 100-byte header.");
    }
    ByteBuffer header = Bytes.at(in, 0, HEADER).order(ByteOrder.BIG_ENDIAN);
    if (!recognises(header)) {
      return readings.broken(0, "It does not begin like an SQLite database.");
    }
    int told = Short.toUnsignedInt(header.getShort(16));
    long page = told == 1 ? 65_536 : told;
    long pages = Integer.toUnsignedLong(header.getInt(28));
    boolean current = header.getInt(24) == header.getInt(92);
    if (page < 512 || Long.bitCount(page) != 1) {
      return readings.broken(16, "Its header tells of a page size of " + page + " bytes.");
    }
    if (current && pages * page > size || size % page != 0) {
      return readings.cutShort(
          size, "Its header tells of " + pages + " pages of " + page + " bytes.");
    }
    if (size > LARGEST_COPY) {
      return readings
          .found(
              new Finding(
                  Finding.HEAD_ONLY,
                  Finding.Severity.NOTE,
                  -1,
                  "Only its header was checked: it is larger than 2 GB.",
                  "Open a trial copy."))
          .done();
    }
    try (ScratchFile copy = ScratchFile.copyOf(in, ".sqlite")) {
      check(copy.path(), readings);
    } catch (SQLException broken) {
      return readings.broken(-1, "It cannot be read as a database: " + broken.getMessage());
    }
    return readings.done();
  }

  private static void check(Path copy, Readings readings) throws SQLException {
    try (Connection database = DriverManager.getConnection("jdbc:sqlite:" + copy);
        Statement ask = database.createStatement()) {
      try (ResultSet said = ask.executeQuery("pragma integrity_check(10)")) {
        while (said.next()) {
          if (!said.getString(1).equals("ok")) {
            readings.found(
                Finding.damaged("integrity", -1, "Its integrity check says: " + said.getString(1)));
          }
        }
      }
      if (readings.isFaultless()) {
        tables(ask, readings);
      }
    }
  }

  private static void tables(Statement ask, Readings readings) throws SQLException {
    List<String> names = new java.util.ArrayList<>();
    try (ResultSet all =
        ask.executeQuery(
            "select name from sqlite_master where type = 'table' and name not like 'sqlite_%'"
                + " order by name limit "
                + MOST_TABLES)) {
      while (all.next()) {
        names.add(all.getString(1));
      }
    }
    for (String name : names) {
      try (ResultSet rows =
          ask.executeQuery("select count(*) from \"" + name.replace("\"", "\"\"") + "\"")) {
        readings.part(
            Part.of(
                name, null, name, "table", Map.of("rows", new Measure(rows.getLong(1), "")), null));
      }
    }
  }
}
