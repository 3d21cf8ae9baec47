package dev.kavrin.core.content;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.FileComparison;
import dev.kavrin.core.compare.PartChange;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.DoubleStream;
import java.util.zip.Deflater;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Fields in every form in which VTK writes them, and as tables and HDF5: the same numbers give the
 * same figures. Layouts by "The VTK User's Guide", chapter 19.
 */
class FieldsTest {
  private static final int BLOCK = 1000;

  @TempDir Path folder;

  private static double[] heat(long seed) {
    return new Random(seed).doubles(700, 280, 420).map(v -> (float) v).toArray();
  }

  private static ByteBuffer floats(double[] values, ByteOrder order) {
    ByteBuffer bytes = ByteBuffer.allocate(values.length * 4).order(order);
    for (double value : values) {
      bytes.putFloat((float) value);
    }
    return bytes.flip();
  }

  private static String words(double[] values) {
    return DoubleStream.of(values)
        .mapToObj(v -> String.format(Locale.ROOT, "%.9g", v))
        .collect(Collectors.joining(" "));
  }

  private static byte[] legacy(double[] values, boolean binary) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.write(
        ("# vtk DataFile Version 3.0\nheat\n"
                + (binary ? "BINARY" : "ASCII")
                + "\nDATASET STRUCTURED_POINTS\nDIMENSIONS 70 10 1\nORIGIN 0 0 0\n"
                + "SPACING 1 1 1\nPOINT_DATA 700\nSCALARS heat float 1\nLOOKUP_TABLE default\n")
            .getBytes(StandardCharsets.US_ASCII));
    out.write(
        binary
            ? floats(values, ByteOrder.BIG_ENDIAN).array()
            : words(values).getBytes(StandardCharsets.US_ASCII));
    out.write('\n');
    return out.toByteArray();
  }

  private static byte[] length(long bytes) {
    return ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN).putInt((int) bytes).array();
  }

  private static String base64(byte[]... pieces) {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    for (byte[] piece : pieces) {
      all.writeBytes(piece);
    }
    return Base64.getEncoder().encodeToString(all.toByteArray());
  }

  private static String packed(byte[] bytes) {
    ByteArrayOutputStream blocks = new ByteArrayOutputStream();
    ByteArrayOutputStream lengths = new ByteArrayOutputStream();
    int count = (bytes.length + BLOCK - 1) / BLOCK;
    lengths.writeBytes(length(count));
    lengths.writeBytes(length(BLOCK));
    lengths.writeBytes(length(bytes.length % BLOCK));
    for (int i = 0; i < count; i++) {
      Deflater deflater = new Deflater();
      deflater.setInput(bytes, i * BLOCK, Math.min(BLOCK, bytes.length - i * BLOCK));
      deflater.finish();
      byte[] block = new byte[2 * BLOCK];
      int size = deflater.deflate(block);
      lengths.writeBytes(length(size));
      blocks.write(block, 0, size);
    }
    return base64(lengths.toByteArray()) + base64(blocks.toByteArray());
  }

  private static byte[] xml(double[] values, String form) throws IOException {
    byte[] bytes = floats(values, ByteOrder.LITTLE_ENDIAN).array();
    String head =
        "<?xml version=\"1.0\"?>\n<VTKFile type=\"ImageData\" byte_order=\"LittleEndian\""
            + " header_type=\"UInt32\""
            + (form.equals("packed") ? " compressor=\"vtkZLibDataCompressor\"" : "")
            + ">\n<ImageData><Piece><PointData>\n<DataArray type=\"Float32\" Name=\"heat\" ";
    String tail = "</DataArray></PointData></Piece></ImageData></VTKFile>\n";
    if (!form.equals("raw")) {
      String body =
          switch (form) {
            case "ascii" -> "format=\"ascii\">" + words(values);
            case "binary" -> "format=\"binary\">" + base64(length(bytes.length), bytes);
            default -> "format=\"binary\">" + packed(bytes);
          };
      return (head + body + tail).getBytes(StandardCharsets.US_ASCII);
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.writeBytes(
        (head
                + "format=\"appended\" offset=\"0\"/></PointData></Piece></ImageData>\n"
                + "<AppendedData encoding=\"raw\">\n_")
            .getBytes(StandardCharsets.US_ASCII));
    out.writeBytes(length(bytes.length));
    out.writeBytes(bytes);
    out.writeBytes("\n</AppendedData></VTKFile>\n".getBytes(StandardCharsets.US_ASCII));
    return out.toByteArray();
  }

  private Path written(String form, double[] values, String name) throws IOException {
    return switch (form) {
      case "legacy", "legacy binary" ->
          Files.write(folder.resolve(name + ".vtk"), legacy(values, form.endsWith("binary")));
      case "table" ->
          Files.writeString(
              folder.resolve(name + ".csv"), "heat\n" + words(values).replace(' ', '\n') + "\n");
      default -> Files.write(folder.resolve(name + ".vti"), xml(values, form));
    };
  }

  @ParameterizedTest
  @ValueSource(strings = {"legacy", "legacy binary", "ascii", "binary", "packed", "raw", "table"})
  void theSameNumbersGiveTheSameFiguresInEveryForm(String form) throws IOException {
    double[] values = heat(1);
    Path file = written(form, values, "a");
    HealthReport report = new HealthCheck(new RealDisk()).inspect(file, file.toString());
    assertThat(report.verdict()).as(report.reason()).isEqualTo(Verdict.INTACT);
    Part heat = report.inventory().parts().get(0);
    assertThat(heat.label()).isEqualTo("heat");
    assertThat(heat.measure("count")).isEqualTo(700);
    DoubleStream all = DoubleStream.of(values);
    assertThat(heat.measure("mean")).isCloseTo(all.average().orElseThrow(), within(1e-4));
    assertThat(heat.measure("min"))
        .isCloseTo(DoubleStream.of(values).min().orElseThrow(), within(1e-4));
  }

  @ParameterizedTest
  @ValueSource(strings = {"legacy", "legacy binary", "ascii", "binary", "packed", "raw", "table"})
  void howFarAFieldWentApartIsTold(String form) throws IOException {
    double[] before = heat(1);
    double[] after = before.clone();
    double apart = 0;
    double all = 0;
    for (int i = 0; i < after.length; i++) {
      after[i] += i % 7 == 0 ? 2.5 : 0;
      apart += Math.pow(after[i] - before[i], 2);
      all += before[i] * before[i];
    }
    Path a = written(form, before, "a");
    Path b = written(form, after, "b");
    Comparison found = FileComparison.of(new RealDisk(), a, a.toString(), b, b.toString());
    PartChange heat = found.changes().get(0);
    assertThat(heat.numbers().get("relative L2").b())
        .isCloseTo(Math.sqrt(apart / all), within(1e-6));
    assertThat(heat.numbers().get("largest difference").b()).isCloseTo(2.5, within(1e-4));
  }

  @Test
  void anArrayThatIsNotThereInFullIsDamage() throws IOException {
    byte[] whole = xml(heat(1), "binary");
    String cut =
        new String(whole, StandardCharsets.US_ASCII).replaceFirst("[A-Za-z0-9+/]{400}==?<", "<");
    Path file = Files.writeString(folder.resolve("cut.vti"), cut);
    HealthReport report = new HealthCheck(new RealDisk()).inspect(file, "cut.vti");
    assertThat(cut.length()).isLessThan(whole.length);
    assertThat(report.verdict()).isEqualTo(Verdict.DAMAGED);
  }

  @Test
  void aFieldThatRunsAwayIsDoubtful() throws IOException {
    double[] values = heat(1);
    values[40] = 3e38;
    Path file = written("legacy binary", values, "a");
    HealthReport report = new HealthCheck(new RealDisk()).inspect(file, "a.vtk");
    assertThat(report.verdict()).isEqualTo(Verdict.DOUBTFUL);
    assertThat(report.reason()).contains("diverged");
  }
}
