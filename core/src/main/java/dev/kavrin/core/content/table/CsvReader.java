package dev.kavrin.core.content.table;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Decimal;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Fields;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.content.TextLines;
import dev.kavrin.core.content.field.FieldSums;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Comma- or tab-separated values with a head line: its parts are the columns. Carries neither
 * length nor checksum, so nothing damaged can be told but zero bytes. Source: RFC 4180.
 */
public final class CsvReader implements FieldReader {
  private static final int MOST_COLUMNS = 2_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("csv") || ext.equals("tsv");
  }

  /** One column while lines go by. */
  private static final class Column {
    private final String name;
    private final FieldSums sums;
    private long odd;

    Column(String name, boolean held) {
      this.name = name;
      this.sums = new FieldSums(held);
    }

    void take(String cell) {
      boolean starts = !cell.isEmpty() && "+-.0123456789".indexOf(cell.charAt(0)) >= 0;
      double value = starts ? Decimal.parse(cell) : Double.NaN;
      if (Double.isFinite(value)) {
        sums.number(value);
      } else {
        sums.words(cell + "\n");
        odd += cell.matches("(?i)[+-]?(nan|inf|infinity)") ? 1 : 0;
      }
    }

    Part part(String id, long rows) {
      return Part.of(id, null, name, "field", sums.measures(rows, ""), sums.exact());
    }
  }

  @Override
  public Fields fields(SeekableByteChannel in) {
    return part -> {
      List<Column> columns = new ArrayList<>();
      read(in, part, columns);
      for (int i = 0; i < columns.size(); i++) {
        if (id(columns, i).equals(part)) {
          return columns.get(i).sums.held();
        }
      }
      return new double[0];
    };
  }

  @Override
  public Optional<Slice> slice(SeekableByteChannel in) {
    return Optional.empty();
  }

  /** Columns of one name are told apart by their places. */
  private static String id(List<Column> columns, int at) {
    String name = columns.get(at).name;
    boolean alone = columns.stream().filter(c -> c.name.equals(name)).count() == 1;
    return alone ? name : name + " #" + (at + 1);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return read(in, null, new ArrayList<>());
  }

  private static Reading read(SeekableByteChannel in, @Nullable String wanted, List<Column> columns)
      throws IOException {
    Readings readings = new Readings("table");
    if (in.size() == 0) {
      return readings.empty();
    }
    TextLines lines = new TextLines(Bytes.from(in, 0), StandardCharsets.UTF_8);
    String head = lines.next();
    char between = head.indexOf('\t') >= 0 ? '\t' : head.indexOf(';') >= 0 ? ';' : ',';
    cells(head, between).stream()
        .limit(MOST_COLUMNS)
        .map(name -> new Column(name, wanted != null && wanted.startsWith(name)))
        .forEach(columns::add);
    long rows = 0;
    for (String line = lines.next(); line != null; line = lines.next()) {
      if (line.indexOf('\0') >= 0) {
        readings.found(Finding.damaged("zeros", -1, "Line " + (rows + 2) + " holds zero bytes."));
        break;
      }
      if (!line.isBlank()) {
        List<String> cells = cells(line, between);
        for (int i = 0; i < columns.size(); i++) {
          columns.get(i).take(i < cells.size() ? cells.get(i) : "");
        }
        rows++;
      }
    }
    long odd = 0;
    for (int i = 0; i < columns.size(); i++) {
      Column column = columns.get(i);
      readings.part(column.part(id(columns, i), rows));
      odd += column.odd;
    }
    if (odd > 0) {
      readings.found(
          Finding.doubtful(
              "not-a-number", -1, odd + " of its values are no numbers: the run diverged."));
    }
    return readings.done();
  }

  /** Quoted cells may hold the separator, and a doubled quote for one; no line breaks. */
  private static List<String> cells(String line, char between) {
    List<String> cells = new ArrayList<>();
    StringBuilder cell = new StringBuilder();
    boolean quoted = false;
    for (int i = 0; i < line.length(); i++) {
      char c = line.charAt(i);
      if (c == '"') {
        boolean doubled = quoted && i + 1 < line.length() && line.charAt(i + 1) == '"';
        if (doubled) {
          cell.append(c);
          i++;
        } else {
          quoted = !quoted;
        }
      } else if (c == between && !quoted) {
        cells.add(cell.toString().strip());
        cell.setLength(0);
      } else {
        cell.append(c);
      }
    }
    cells.add(cell.toString().strip());
    return cells;
  }
}
