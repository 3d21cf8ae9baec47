package dev.kavrin.core.compact;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.luben.zstd.Zstd;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupRecord;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.function.Function;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * What a line of versions takes of which one part is another each time, against {@code zstd} over
 * the same bytes: of each version by itself, of only what changed, and of each as a patch of the
 * one before ({@code zstd --patch-from}).
 */
class CompactedSizesTest {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final boolean LONG = Boolean.getBoolean("kavrin.long");
  private static final int PARTS = FULL ? 50 : 10;
  private static final int VERSIONS = LONG ? 1_000 : FULL ? 100 : 20;
  private static final int POINTS = 16_000;

  @TempDir Path temp;

  /** Text of parts that stay as they are is made once. */
  private static final Map<float[], String> TEXT = new IdentityHashMap<>();

  private static String once(float[] points, Function<float[], String> lines) {
    synchronized (TEXT) {
      return TEXT.computeIfAbsent(points, lines);
    }
  }

  /** How a model of some parts is written. */
  enum Kind {
    GLB {
      @Override
      byte[] write(Path scratch, List<float[]> parts) {
        GlbWriter writer = new GlbWriter();
        int[] corners = new int[POINTS / 3 * 3];
        for (int i = 0; i < corners.length; i++) {
          corners[i] = i % (POINTS / 3);
        }
        for (int i = 0; i < parts.size(); i++) {
          writer.mesh("part " + i, -1, new MeshData(parts.get(i), corners), null, null, -1);
        }
        return writer.bytes(Map.of());
      }

      @Override
      byte[] part(float[] points) {
        java.nio.ByteBuffer bytes = java.nio.ByteBuffer.allocate(4 * points.length);
        for (float f : points) {
          bytes.putFloat(f);
        }
        return bytes.array();
      }
    },
    OBJ {
      @Override
      byte[] write(Path scratch, List<float[]> parts) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < parts.size(); i++) {
          text.append("o part-").append(i).append('\n').append(once(parts.get(i), p -> lines(p)));
        }
        return text.toString().getBytes(StandardCharsets.US_ASCII);
      }

      private static String lines(float[] points) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i + 2 < points.length / 2; i += 3) {
          text.append(
              String.format(
                  Locale.ROOT, "v %.6f %.6f %.6f\n", points[i], points[i + 1], points[i + 2]));
        }
        return text.toString();
      }

      @Override
      byte[] part(float[] points) {
        return lines(points).getBytes(StandardCharsets.US_ASCII);
      }
    },
    DXF {
      @Override
      byte[] write(Path scratch, List<float[]> parts) {
        StringBuilder text = new StringBuilder("0\nSECTION\n2\nENTITIES\n");
        for (int i = 0; i < parts.size(); i++) {
          int layer = i;
          text.append(once(parts.get(i), p -> lines(layer, p)));
        }
        return text.append("0\nENDSEC\n0\nEOF\n").toString().getBytes(StandardCharsets.US_ASCII);
      }

      private static String lines(int layer, float[] points) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i + 3 < points.length / 2; i += 4) {
          text.append("0\nLINE\n8\nsheet-").append(layer).append('\n');
          text.append(
              String.format(
                  Locale.ROOT,
                  "10\n%.5f\n20\n%.5f\n11\n%.5f\n21\n%.5f\n",
                  points[i],
                  points[i + 1],
                  points[i + 2],
                  points[i + 3]));
        }
        return text.toString();
      }

      @Override
      byte[] part(float[] points) {
        return lines(0, points).getBytes(StandardCharsets.US_ASCII);
      }
    },
    HDF5 {
      @Override
      byte[] write(Path scratch, List<float[]> parts) throws IOException {
        Files.deleteIfExists(scratch);
        try (WritableHdfFile file = HdfFile.write(scratch)) {
          for (int i = 0; i < parts.size(); i++) {
            file.putDataset("part-" + i, parts.get(i));
          }
        }
        return Files.readAllBytes(scratch);
      }

      @Override
      byte[] part(float[] points) {
        return GLB.part(points);
      }
    };

    abstract byte[] write(Path scratch, List<float[]> parts) throws IOException;

    /** The bytes by which one part differs from another. */
    abstract byte[] part(float[] points);
  }

  private static float[] points(Random random) {
    float[] points = new float[POINTS * 3];
    for (int i = 0; i < points.length; i++) {
      points[i] = random.nextFloat();
    }
    return points;
  }

  private static long zstd(byte[] bytes) {
    return Zstd.compress(bytes, 3).length;
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void aThousandVersionsForTheRoomOfAFew(Kind kind) throws Exception {
    Random random = new Random(4);
    Shelf shelf = Shelf.fresh(new RealDisk(), temp.resolve("keep"));
    List<float[]> parts = new ArrayList<>();
    for (int i = 0; i < PARTS; i++) {
      parts.add(points(random));
    }
    long each = 0;
    long changed = 0;
    long patches = 0;
    Path before = temp.resolve("before");
    for (int n = 0; n < VERSIONS; n++) {
      if (n > 0) {
        float[] part = points(random);
        parts.set(random.nextInt(PARTS), part);
        changed += zstd(kind.part(part));
      }
      byte[] bytes = kind.write(temp.resolve("scratch"), parts);
      long alone = zstd(bytes);
      each += alone;
      changed += n == 0 ? alone : 0;
      patches += n == 0 ? alone : patch(before, bytes);
      Files.write(before, bytes);
      BackupRecord backup = shelf.add(bytes);
      shelf.compact(List.of(backup));
      shelf.written.clear();
      shelf.now = shelf.now.plusSeconds(3600L * 24 * 20);
      shelf.retention.emptyBin();
    }

    long disk = shelf.bytes(".pack") + shelf.bytes(".recipe");

    assertThat(disk / (double) changed).as("against what changed").isLessThanOrEqualTo(1.3);
    assertThat(disk / (double) each).as("against each by itself").isLessThanOrEqualTo(0.5);
    assertThat(disk / (double) patches).as("against a chain of patches").isLessThanOrEqualTo(1.4);
    List<BackupRecord> all = shelf.standing();
    for (int i = 0; i < all.size(); i += Math.max(1, all.size() / 10)) {
      assertThat(shelf.publisher.identify(shelf.folder.absolute(all.get(i).path())))
          .isEqualTo(all.get(i).content());
    }
  }

  private long patch(Path before, byte[] bytes) throws Exception {
    Path next = Files.write(temp.resolve("next"), bytes);
    Path out = temp.resolve("patch");
    Process zstd =
        new ProcessBuilder(
                "zstd",
                "-3",
                "-q",
                "-f",
                "--patch-from=" + before,
                next.toString(),
                "-o",
                out.toString())
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    assertThat(zstd.waitFor()).isZero();
    return Files.size(out);
  }
}
