package dev.kavrin.core.export;

import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Fields;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.health.Readers;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/** Numbers of fields. */
enum FieldExport implements Export {
  /** Source: RFC 4180. */
  CSV("csv", "table, comma-separated", "units and the shape of grids; shorter fields end earlier") {
    @Override
    void write(Map<String, double[]> fields, Optional<Slice> grid, OutputStream out)
        throws IOException {
      Appendable text = new OutputStreamWriter(out, StandardCharsets.UTF_8);
      CSVPrinter table = CSVFormat.RFC4180.print(text);
      table.printRecord(fields.keySet().stream().map(n -> n.replaceAll("\\R", " ")));
      int rows = fields.values().stream().mapToInt(f -> f.length).max().orElse(0);
      for (int row = 0; row < rows; row++) {
        for (double[] field : fields.values()) {
          table.print(row < field.length ? field[row] : null);
        }
        table.println();
      }
      table.flush();
    }
  },

  /** Source: VTK file formats, legacy form, version 3.0, structured points with field data. */
  VTK("vtk", "VTK, legacy form", "units; fields of another length than the longest") {
    @Override
    void write(Map<String, double[]> fields, Optional<Slice> grid, OutputStream out)
        throws IOException {
      int longest = fields.values().stream().mapToInt(f -> f.length).max().orElse(0);
      boolean plane = grid.filter(g -> g.rows() * g.columns() == longest).isPresent();
      List<Map.Entry<String, double[]>> equal =
          fields.entrySet().stream().filter(f -> f.getValue().length == longest).toList();
      StringBuilder text = new StringBuilder("# vtk DataFile Version 3.0\nWritten by Kavrin\n");
      text.append("ASCII\nDATASET STRUCTURED_POINTS\nDIMENSIONS ")
          .append(plane ? grid.get().columns() + " " + grid.get().rows() : longest + " 1")
          .append(" 1\nORIGIN 0 0 0\nSPACING 1 1 1\nPOINT_DATA ")
          .append(longest)
          .append("\nFIELD fields ")
          .append(equal.size())
          .append('\n');
      out.write(text.toString().getBytes(StandardCharsets.US_ASCII));
      for (Map.Entry<String, double[]> field : equal) {
        String name = field.getKey().replaceAll("[^A-Za-z0-9_./-]", "_");
        out.write((name + " 1 " + longest + " double\n").getBytes(StandardCharsets.US_ASCII));
        for (double value : field.getValue()) {
          out.write((value + "\n").getBytes(StandardCharsets.US_ASCII));
        }
      }
    }
  };

  private static final long LARGEST = 10_000_000;

  private final Format format;

  FieldExport(String ending, String name, String loses) {
    this.format = new Format(ending, name, loses);
  }

  @Override
  public Format format() {
    return format;
  }

  @Override
  public boolean takes(String name) {
    return Readers.shows(name) == Readers.Shows.FIELD;
  }

  @Override
  public void write(Opened from, OutputStream out) throws IOException {
    if (!(Readers.of(from.in(), from.name()).orElse(null) instanceof FieldReader reader)) {
      throw new CannotTake("There are no fields in it.");
    }
    List<Part> parts = reader.read(from.in(), from.beside()).inventory().parts();
    Fields numbers = reader.fields(from.in());
    Map<String, double[]> fields = new LinkedHashMap<>();
    long all = 0;
    for (Part part : parts) {
      double[] values = numbers.of(part.id());
      all += values.length;
      if (all > LARGEST) {
        throw new CannotTake("It holds more numbers than can be written in one piece.");
      }
      if (values.length > 0) {
        fields.put(part.id(), values);
      }
    }
    if (fields.isEmpty()) {
      throw new CannotTake("There are no numbers in it that could be written.");
    }
    write(fields, reader.slice(from.in()), out);
  }

  abstract void write(Map<String, double[]> fields, Optional<Slice> grid, OutputStream out)
      throws IOException;
}
