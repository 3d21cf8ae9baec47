package dev.kavrin.core.bundle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import io.airlift.compress.zstd.ZstdInputStream;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.UnaryOperator;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Everything comes back bit for bit; what was packed is read by others: PNG by the JDK, Zstandard
 * by the aircompressor library, the bag by the reader of RFC 8493.
 */
class ArchiveTest {
  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();
  private final Archive archive = new Archive(disk, new Publisher(disk, "t"));

  private BufferedImage picture(Random random, int type) {
    BufferedImage picture = new BufferedImage(7 + random.nextInt(90), 5 + random.nextInt(90), type);
    for (int y = 0; y < picture.getHeight(); y++) {
      for (int x = 0; x < picture.getWidth(); x++) {
        picture.setRGB(x, y, 0x010203 * (x + y) + random.nextInt(9));
      }
    }
    return picture;
  }

  private void image(String name, String format, BufferedImage picture) throws IOException {
    Path file = folder.resolve("work").resolve(name);
    Files.createDirectories(file.getParent());
    ImageWriter writer = ImageIO.getImageWritersByFormatName(format).next();
    ImageWriteParam how = writer.getDefaultWriteParam();
    if (format.equals("tiff")) {
      how.setCompressionMode(ImageWriteParam.MODE_DISABLED);
    }
    try (ImageOutputStream out = ImageIO.createImageOutputStream(file.toFile())) {
      writer.setOutput(out);
      writer.write(null, new IIOImage(picture, null, null), how);
    }
  }

  private List<String> work(Random random) throws IOException {
    List<String> files = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      image("pictures/plain-" + i + ".bmp", "bmp", picture(random, BufferedImage.TYPE_INT_RGB));
      image("pictures/page-" + i + ".tif", "tiff", picture(random, BufferedImage.TYPE_INT_RGB));
      image("pictures/grey-" + i + ".tif", "tiff", picture(random, BufferedImage.TYPE_BYTE_GRAY));
    }
    image("pictures/indexed.bmp", "bmp", picture(random, BufferedImage.TYPE_BYTE_INDEXED));
    image("photo.jpg", "jpg", picture(random, BufferedImage.TYPE_INT_RGB));
    byte[] noise = new byte[100_000];
    random.nextBytes(noise);
    Path work = folder.resolve("work");
    Files.write(work.resolve("noise.dat"), noise);
    Files.writeString(work.resolve("Maße & Notizen.txt"), "breit 4 m, hoch 3 m\n".repeat(900));
    Files.write(work.resolve("empty"), new byte[0]);
    Files.write(work.resolve("BM"), "BM".getBytes());
    byte[] cut = Files.readAllBytes(work.resolve("pictures/plain-0.bmp"));
    Files.write(work.resolve("cut.bmp"), java.util.Arrays.copyOf(cut, cut.length / 2));
    cut[cut.length - 1] = 7;
    Files.write(work.resolve("odd.bmp"), cut);
    try (var all = Files.walk(work)) {
      for (Path file : all.filter(Files::isRegularFile).sorted().toList()) {
        Files.setLastModifiedTime(file, FileTime.fromMillis(1_900_000_000_000L + files.size()));
        files.add(work.relativize(file).toString());
      }
    }
    return files;
  }

  private Archive.Order order(List<String> files) {
    Path work = folder.resolve("work");
    return new Archive.Order(
        files.stream().map(f -> new Archive.Source(work.resolve(f), f)).toList(),
        Map.of(),
        Map.of(),
        LocalDate.of(2031, 11, 9));
  }

  @Test
  void everythingComesBackBitForBit() throws IOException {
    List<String> files = work(new Random(20311109));
    Path work = folder.resolve("work");
    Path bag = Files.createDirectory(folder.resolve("bag"));
    Archive.Made made = archive.write(order(files), bag, bytes -> {});
    assertThat(made.files()).isEqualTo(files.size());
    assertThat(made.after()).isLessThan(made.before());
    assertThat(new BagCheck(disk).of(bag).isValid()).isTrue();
    List<Archive.Listed> listed = archive.list(bag);
    assertThat(listed).filteredOn(l -> l.form().equals("PNG")).hasSizeGreaterThanOrEqualTo(18);
    for (Archive.Listed one : listed) {
      Path packed = bag.resolve("data").resolve(one.path());
      Path was = work.resolve(one.original());
      if (one.form().equals("PNG")) {
        same(ImageIO.read(packed.toFile()), ImageIO.read(was.toFile()), one.original());
      } else if (one.form().equals("ZSTD")) {
        try (InputStream in = new ZstdInputStream(Files.newInputStream(packed))) {
          assertThat(in.readAllBytes()).isEqualTo(Files.readAllBytes(was));
        }
      } else {
        assertThat(packed).hasSameBinaryContentAs(was);
      }
    }
    Path back = Files.createDirectory(folder.resolve("back"));
    assertThat(archive.bringBack(bag, back, UnaryOperator.identity(), bytes -> {}))
        .isEqualTo(files.size());
    for (String file : files) {
      assertThat(back.resolve(file)).hasSameBinaryContentAs(work.resolve(file));
      assertThat(Files.getLastModifiedTime(back.resolve(file)))
          .isEqualTo(Files.getLastModifiedTime(work.resolve(file)));
    }
    assertThatThrownBy(() -> archive.bringBack(bag, back, UnaryOperator.identity(), bytes -> {}))
        .as("nothing is written over")
        .isInstanceOf(IOException.class);
  }

  private static void same(BufferedImage a, BufferedImage b, String name) {
    assertThat(a.getWidth()).as(name).isEqualTo(b.getWidth());
    for (int y = 0; y < b.getHeight(); y++) {
      for (int x = 0; x < b.getWidth(); x++) {
        assertThat(a.getRGB(x, y)).as(name).isEqualTo(b.getRGB(x, y));
      }
    }
  }

  @Test
  void whatWasDamagedIsNotBroughtBackAndNothingLeadsOut() throws IOException {
    List<String> files = work(new Random(20311110));
    Path bag = Files.createDirectory(folder.resolve("bag"));
    archive.write(order(files), bag, bytes -> {});
    Path noise = bag.resolve("data/noise.dat");
    byte[] spoilt = Files.readAllBytes(noise);
    spoilt[5] ^= 1;
    Files.write(noise, spoilt);
    Path back = Files.createDirectory(folder.resolve("back"));
    assertThatThrownBy(() -> archive.bringBack(bag, back, UnaryOperator.identity(), bytes -> {}))
        .hasMessageContaining("noise.dat");
    assertThat(back.resolve("noise.dat")).doesNotExist();
    Path list = bag.resolve(Archive.LIST);
    String whole = Files.readString(list);
    for (String lie : List.of("\"width\":1", "\"form\":\"SHRUNK\"")) {
      Files.writeString(list, whole.replaceFirst(lie.replaceAll(":.*", ":[^,]+"), lie));
      Path third = Files.createDirectory(folder.resolve("third" + lie.length()));
      assertThatThrownBy(() -> archive.bringBack(bag, third, UnaryOperator.identity(), bytes -> {}))
          .as(lie)
          .isInstanceOf(IOException.class);
    }
    Files.writeString(list, whole);
    Files.writeString(
        list, Files.readString(list).replace("\"original\":\"BM\"", "\"original\":\"../BM\""));
    Path other = Files.createDirectory(folder.resolve("other"));
    assertThatThrownBy(() -> archive.bringBack(bag, other, UnaryOperator.identity(), bytes -> {}))
        .hasMessageContaining("leads out");
    assertThat(folder.resolve("BM")).doesNotExist();
  }
}
