package dev.kavrin.core.bundle;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import gov.loc.repository.bagit.creator.BagCreator;
import gov.loc.repository.bagit.hash.StandardSupportedAlgorithms;
import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Bags by RFC 8493 against the Library of Congress's own reader and writer (gov.loc:bagit): ours
 * are valid there, theirs are valid here, and what is altered, missing, extra or outside is found.
 */
class BagTest {
  private static final LocalDate DATE = LocalDate.of(2031, 3, 3);

  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();
  private final BagWriter writer = new BagWriter(disk, new Publisher(disk, "t"));

  private final List<String> names =
      List.of(
          "carriage-02.glb",
          "pictures/body.png",
          "pictures/Füllung 100%.png",
          "pictures/車両.png",
          "sheets/plan (draft).dxf");

  private List<BagWriter.Item> items(Random random) throws IOException {
    List<BagWriter.Item> items = new ArrayList<>();
    PortableNames portable = new PortableNames();
    for (String name : names) {
      Path source = folder.resolve("work").resolve(name);
      Files.createDirectories(source.getParent());
      byte[] bytes = new byte[1 + random.nextInt(300_000)];
      random.nextBytes(bytes);
      Files.write(source, bytes);
      items.add(new BagWriter.Item(source, portable.of(name)));
    }
    return items;
  }

  private Path packed(int seed) throws IOException {
    Path bag = Files.createDirectory(folder.resolve("bag-" + seed));
    writer.write(order(items(new Random(seed))), bag, bytes -> {});
    return bag;
  }

  private static BagWriter.Order order(List<BagWriter.Item> items) {
    return new BagWriter.Order(
        items,
        Map.of("README.txt", "What this is.\n"),
        Map.of("Source-Organization", "Tarnwick Incline"),
        DATE);
  }

  private static boolean validElsewhere(Path bag) throws Exception {
    try (BagVerifier verifier = new BagVerifier()) {
      verifier.isValid(new BagReader().read(bag), false);
      return true;
    }
  }

  @Test
  void oursAreValidThere() throws Exception {
    for (int seed = 0; seed < 5; seed++) {
      Path bag = packed(seed);
      assertThat(validElsewhere(bag)).isTrue();
      BagReport report = new BagCheck(disk).of(bag);
      assertThat(report.isValid()).as(report.toString()).isTrue();
      assertThat(report.payload()).hasSize(names.size());
      assertThat(report.info()).containsEntry("Source-Organization", "Tarnwick Incline");
    }
  }

  @Test
  void theirsAreValidHereWithEachOfTheirDigests() throws Exception {
    for (StandardSupportedAlgorithms algorithm : StandardSupportedAlgorithms.values()) {
      Path bag = Files.createDirectory(folder.resolve("theirs-" + algorithm));
      for (String name : names) {
        Path file = bag.resolve(name);
        Files.createDirectories(file.getParent());
        Files.writeString(file, name + algorithm);
      }
      BagCreator.bagInPlace(bag, List.of(algorithm, StandardSupportedAlgorithms.SHA256), false);
      BagReport report = new BagCheck(disk).of(bag);
      assertThat(report.isValid()).as(algorithm + ": " + report).isTrue();
      assertThat(report.payload()).hasSize(names.size());
    }
  }

  @Test
  void whatIsAlteredMissingOrExtraIsFound() throws Exception {
    Path bag = packed(7);
    Path body = bag.resolve("data/pictures/body.png");
    byte[] was = Files.readAllBytes(body);
    byte[] flipped = was.clone();
    flipped[flipped.length / 2] ^= 1;
    Files.write(body, flipped);
    assertThat(new BagCheck(disk).of(bag).altered()).containsExactly("data/pictures/body.png");
    assertThatThrownBy(() -> validElsewhere(bag)).isInstanceOf(Exception.class);
    Files.delete(body);
    BagReport gone = new BagCheck(disk).of(bag);
    assertThat(gone.missing()).containsExactly("data/pictures/body.png");
    assertThat(gone.isComplete()).isFalse();
    Files.write(body, was);
    assertThat(new BagCheck(disk).of(bag).isValid()).isTrue();
    Files.writeString(bag.resolve("data/added.txt"), "x");
    assertThat(new BagCheck(disk).of(bag).extra()).containsExactly("data/added.txt");
    assertThat(new BagCheck(disk).of(folder.resolve("work")).faults().get(0))
        .contains("It is no bag");
  }

  @Test
  void aManifestThatLeadsOutIsRefusedAndLinksAreNotFollowed() throws Exception {
    for (String out :
        List.of("../secret", "/etc/passwd", "data/../../secret", "~/secret", "C:\\x", "data\\x")) {
      Path bag = packed(out.hashCode());
      Path manifest = bag.resolve("manifest-sha256.txt");
      Files.writeString(
          manifest, Files.readString(manifest) + "0".repeat(64) + "  " + out + "\n", UTF_8);
      BagReport report = new BagCheck(disk).of(bag);
      assertThat(report.faults().toString()).as(out).contains("outside the bag: " + out);
      assertThat(report.isValid()).isFalse();
    }
    Path bag = packed(99);
    Files.createSymbolicLink(bag.resolve("data/link"), Path.of("/etc/hostname"));
    assertThat(new BagCheck(disk).of(bag).faults().toString()).contains("not followed");
  }

  @Test
  void aRunThatWasStoppedGoesOnAndNothingElseIsOverwritten() throws Exception {
    List<BagWriter.Item> items = items(new Random(3));
    Path bag = Files.createDirectory(folder.resolve("halfway"));
    int[] left = {2};
    assertThatThrownBy(
            () ->
                writer.write(
                    order(items),
                    bag,
                    bytes -> {
                      if (left[0]-- == 0) {
                        throw new IllegalStateException("stopped");
                      }
                    }))
        .hasMessage("stopped");
    writer.write(order(items), bag, bytes -> {});
    assertThat(validElsewhere(bag)).isTrue();
    Files.writeString(items.get(0).source(), "another");
    assertThatThrownBy(() -> writer.write(order(items), bag, bytes -> {}))
        .hasMessageContaining("is another file");
    assertThat(new BagCheck(disk).of(bag).isValid()).isTrue();
    assertThatThrownBy(
            () ->
                writer.write(
                    order(List.of(new BagWriter.Item(items.get(0).source(), "../out"))),
                    Files.createDirectory(folder.resolve("out")),
                    bytes -> {}))
        .hasMessageContaining("leads out of the bag");
  }

  /** Unpacked by the JDK's own reader of ZIP. */
  @Test
  void asOneZipItIsTheSameBag() throws Exception {
    Path zip = folder.resolve("Übergabe.zip");
    writer.writeZip(order(items(new Random(11))), zip, bytes -> {});
    BagReport report = new BagCheck(disk).of(zip);
    assertThat(report.isValid()).as(report.toString()).isTrue();
    assertThat(report.payload()).hasSize(names.size());
    Path out = Files.createDirectory(folder.resolve("unpacked"));
    try (ZipFile read = new ZipFile(zip.toFile())) {
      for (ZipEntry entry : Collections.list(read.entries())) {
        Path target = out.resolve(entry.getName());
        Files.createDirectories(target.getParent());
        Files.copy(read.getInputStream(entry), target);
      }
    }
    assertThat(validElsewhere(out.resolve("Übergabe"))).isTrue();
    byte[] bytes = Files.readAllBytes(zip);
    bytes[bytes.length / 3] ^= 1;
    Path spoilt = Files.write(folder.resolve("spoilt.zip"), bytes);
    assertThat(new BagCheck(disk).of(spoilt).isValid()).isFalse();
    Path evil = folder.resolve("evil.zip");
    try (ZipOutputStream to = new ZipOutputStream(Files.newOutputStream(evil))) {
      to.putNextEntry(new ZipEntry("bag/bagit.txt"));
      to.putNextEntry(new ZipEntry("bag/../../etc/cron.d/x"));
    }
    assertThat(new BagCheck(disk).of(evil).faults().toString()).contains("../../etc/cron.d/x");
  }

  @Test
  void namesStandOnAnyMachine() {
    PortableNames names = new PortableNames();
    assertThat(names.of("pictures/body.png")).isEqualTo("pictures/body.png");
    assertThat(names.of("pictures/Body.png")).isEqualTo("pictures/Body-2.png");
    assertThat(names.of("pictures/body.png")).as("the same again").isEqualTo("pictures/body.png");
    assertThat(names.of("a:b?.png")).isEqualTo("a_b_.png");
    assertThat(names.of("100%.png")).isEqualTo("100_.png");
    assertThat(names.of("aux.txt")).isEqualTo("_aux.txt");
    assertThat(names.of("u\u0308ber.png")).isEqualTo("\u00fcber.png");
    assertThat(names.of("\u00fcber.png")).as("clashes once composed").isEqualTo("\u00fcber-2.png");
    assertThat(names.of("車".repeat(200) + ".png").getBytes(UTF_8).length).isLessThan(256);
    assertThat(names.of("ends with a dot.")).doesNotEndWith(".");
  }
}
