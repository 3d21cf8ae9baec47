package dev.kavrin.core.content.table;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Beside;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Comma- or tab-separated values with a head line: its parts are the columns. Carries neither
 * length nor checksum, so nothing damaged can be told but zero bytes. Source: RFC 4180.
 */
public final class CsvReader implements ContentReader {
  private static final int MOST_COLUMNS = 2_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("csv") || ext.equals("tsv");
  }

  /** One column while lines go by. */
  private static final class Column {
    private final String name;
    private final ContentHash hash = new ContentHash();
    private long numbers;
    private long odd;
    private double min = Double.POSITIVE_INFINITY;
    private double max = Double.NEGATIVE_INFINITY;
    private double sum;

    Column(String name) {
      this.name = name;
    }

    void take(String cell) {
      hash.add((cell + "\n").getBytes(StandardCharsets.UTF_8));
      double value = number(cell);
      if (Double.isFinite(value)) {
        numbers++;
        min = Math.min(min, value);
        max = Math.max(max, value);
        sum += value;
      } else if (cell.matches("(?i)[+-]?(nan|inf|infinity)")) {
        odd++;
      }
    }

    private static double number(String cell) {
      boolean starts = !cell.isEmpty() && "+-.0123456789".indexOf(cell.charAt(0)) >= 0;
      try {
        return starts ? Double.parseDouble(cell) : Double.NaN;
      } catch (NumberFormatException text) {
        return Double.NaN;
      }
    }

    Part part(String id, long rows) {
      Map<String, Measure> measures = new LinkedHashMap<>();
      measures.put("count", new Measure(rows, ""));
      if (numbers > 0) {
        measures.put("min", new Measure(min, ""));
        measures.put("max", new Measure(max, ""));
        measures.put("mean", new Measure(sum / numbers, ""));
      }
      return Part.of(id, null, name, "field", measures, hash.id().digest());
    }
  }

  @Override
  public Reading read(SeekableByteChannel in, Beside beside) throws IOException {
    Readings readings = new Readings("table");
    if (in.size() == 0) {
      return readings.empty();
    }
    BufferedReader lines =
        new BufferedReader(new InputStreamReader(Bytes.from(in, 0), StandardCharsets.UTF_8));
    String head = lines.readLine();
    char between = head.indexOf('\t') >= 0 ? '\t' : head.indexOf(';') >= 0 ? ';' : ',';
    List<Column> columns = new ArrayList<>();
    cells(head, between).stream().limit(MOST_COLUMNS).map(Column::new).forEach(columns::add);
    long rows = 0;
    for (String line = lines.readLine(); line != null; line = lines.readLine()) {
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
      boolean named = columns.stream().filter(c -> c.name.equals(column.name)).count() == 1;
      readings.part(column.part(named ? column.name : column.name + " #" + (i + 1), rows));
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
