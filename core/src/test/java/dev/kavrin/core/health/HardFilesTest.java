package dev.kavrin.core.health;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.content.database.WriteAheadLog;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.ForwardingChannel;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.RealDisk;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files that are mostly nothing, devices that fail, lines without an end. */
class HardFilesTest {
  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();

  private HealthReport look(Path file) {
    return new HealthCheck(disk).inspect(file, file.getFileName().toString());
  }

  private Path model() throws IOException {
    GlbWriter writer = new GlbWriter();
    writer.mesh(
        "part",
        -1,
        new MeshData(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 1}, new int[] {0, 1, 2}),
        null,
        null,
        -1);
    return Files.write(folder.resolve("carriage.glb"), writer.bytes(Map.of()));
  }

  /** As a copy leaves it that was promised its size and then stopped: found without reading it. */
  @ParameterizedTest
  @ValueSource(strings = {"disc.h5", "carriage.glb", "field.vtk", "scan.stl", "odd.bin"})
  void tenGigabytesThatWereNeverWrittenAreNeverCalledIntact(String name) throws IOException {
    Path file = folder.resolve(name);
    if (name.endsWith("h5")) {
      try (WritableHdfFile made = HdfFile.write(file)) {
        made.putDataset("heat", new double[] {1, 2, 3});
      }
    } else {
      Files.write(file, Files.readAllBytes(model()));
    }
    try (RandomAccessFile holes = new RandomAccessFile(file.toFile(), "rw")) {
      holes.setLength(10_000_000_000L);
    }
    HealthReport report = look(file);
    assertThat(report.verdict()).isEqualTo(Verdict.DOUBTFUL);
    assertThat(report.reason()).contains("10.0 GB were never written");
  }

  @Test
  void zerosBehindAValidHeadThatBelongToNoFieldAreDoubtful() throws IOException {
    Path file = folder.resolve("disc.h5");
    try (WritableHdfFile made = HdfFile.write(file)) {
      made.putDataset("heat", new double[] {1, 2, 3});
    }
    try (OutputStream more = Files.newOutputStream(file, StandardOpenOption.APPEND)) {
      more.write(new byte[4_000_000]);
    }
    assertThat(look(file).verdict()).isNotEqualTo(Verdict.INTACT);
  }

  /** A run begins with fields that are zero everywhere: that is no damage. */
  @Test
  void aFieldOfZerosIsIntact() throws IOException {
    Path file = folder.resolve("disc.h5");
    try (WritableHdfFile made = HdfFile.write(file)) {
      made.putDataset("heat", new double[400_000]);
    }
    assertThat(look(file).verdict()).isEqualTo(Verdict.INTACT);
  }

  @Test
  void aDeviceThatFailsMakesNothingDamaged() throws IOException {
    Path file = model();
    Disk failing =
        new ForwardingDisk(disk) {
          @Override
          public SeekableByteChannel read(Path path) throws IOException {
            return new ForwardingChannel(super.read(path)) {
              private int reads;

              @Override
              public int read(ByteBuffer target) throws IOException {
                if (++reads > 2) {
                  throw new IOException("Input/output error");
                }
                return super.read(target);
              }
            };
          }
        };
    for (String name : new String[] {"carriage.glb", "carriage.dxf", "carriage.json", "disc.h5"}) {
      HealthReport report = new HealthCheck(failing).inspect(file, name);
      if (report.verdict() != Verdict.DAMAGED) {
        assertThat(report.verdict()).as(name).isEqualTo(Verdict.NOT_CHECKED);
      } else {
        assertThat(report.reason()).as(name).doesNotContain("Input/output");
      }
    }
    HealthReport model = new HealthCheck(failing).inspect(file, "carriage.glb");
    assertThat(model.verdict()).isEqualTo(Verdict.NOT_CHECKED);
    assertThat(model.reason()).contains("Input/output error");
  }

  @Test
  void aLineWithoutAnEndIsTooLargeToCheckAndNotKept() throws IOException {
    Path file = folder.resolve("table.csv");
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("a,b\n");
      for (int i = 0; i < 5_000_000; i++) {
        out.write('7');
      }
    }
    HealthReport report = look(file);
    assertThat(report.verdict()).isEqualTo(Verdict.UNCHECKABLE);
    assertThat(report.reason()).startsWith("Too large to check: line 2");
  }

  @Test
  void moreGroupsThanAnybodyNamesAreCountedNotKept() throws IOException {
    Path file = folder.resolve("many.obj");
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("v 0 0 0\nv 1 0 0\nv 0 1 1\n");
      for (int i = 0; i < 60_000; i++) {
        out.write("g part-" + i + "\nf 1 2 3\n");
      }
    }
    HealthReport report = look(file);
    assertThat(report.verdict()).isEqualTo(Verdict.INTACT);
    assertThat(report.inventory().parts()).hasSize(1);
    assertThat(report.inventory().parts().get(0).measures().get("faces").value()).isEqualTo(60_000);
  }

  @Test
  void aPolylineOfAHundredThousandVerticesIsReadInTheTimeThatItsSizeTakes() throws IOException {
    Path file = folder.resolve("plan.dxf");
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nTrack\n90\n100000\n");
      for (int i = 0; i < 100_000; i++) {
        out.write("10\n" + i + ".5\n20\n" + (i % 7) + ".25\n");
      }
      out.write("0\nENDSEC\n0\nEOF\n");
    }
    Part part = new Part(look(file));
    assertThat(part.verdict()).isEqualTo(Verdict.INTACT);
    assertThat(part.extent()).isGreaterThan(99_000);
  }

  /** What is asked of the one layer of a drawing. */
  private record Part(HealthReport report) {
    Verdict verdict() {
      return report.verdict();
    }

    double extent() {
      return report.inventory().parts().get(0).measures().get("extent").value();
    }
  }

  /** A database in write-ahead mode, its log not yet taken into the file. */
  @Test
  void aDatabaseWithALogBesideItIsNotWholeByItself() throws IOException, SQLException {
    Path file = folder.resolve("bench.sqlite");
    try (Connection open = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement ask = open.createStatement()) {
      ask.execute("pragma journal_mode=wal");
      ask.execute("create table notes(text)");
      ask.execute("insert into notes values('torque 40 Nm')");
      assertThat(WriteAheadLog.beside(disk, file)).isPresent();
      HealthReport doubted = look(file).doubting(WriteAheadLog.beside(disk, file).orElseThrow());
      assertThat(doubted.verdict()).isIn(Verdict.DOUBTFUL, Verdict.DAMAGED);
    }
    assertThat(WriteAheadLog.beside(disk, file)).as("closed in order").isEmpty();
    Files.writeString(folder.resolve("carriage.glb-wal"), "no log of a database");
    assertThat(WriteAheadLog.beside(disk, model())).isEmpty();
  }
}
