package dev.kavrin.demo;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.Random;
import javax.imageio.ImageIO;

/** The pictures the carriage is painted with. */
final class Pictures {
  private static final int SIZE = 256;

  private Pictures() {}

  static void write(Path folder, Instant when) throws IOException {
    Files.createDirectories(folder);
    paint(folder.resolve("body.png"), 0x8C2F26, when);
    paint(folder.resolve("fittings.png"), 0xB98F3C, when);
  }

  /** A shaded hillside to draw over. */
  static void survey(Path file, Instant when) throws IOException {
    Files.createDirectories(file.getParent());
    BufferedImage image = new BufferedImage(1024, 768, BufferedImage.TYPE_BYTE_GRAY);
    for (int y = 0; y < 768; y++) {
      for (int x = 0; x < 1024; x++) {
        double height = Math.sin(x / 140.0) * 30 + Math.cos(y / 90.0) * 24 + (x + y) / 12.0;
        int shade = height % 10 < 1 ? 90 : 200 - (int) (height % 10) * 3;
        image.setRGB(x, y, shade << 16 | shade << 8 | shade);
      }
    }
    save(image, file, when);
  }

  private static void paint(Path file, int colour, Instant when) throws IOException {
    Random grain = new Random(colour);
    BufferedImage image = new BufferedImage(SIZE, SIZE, BufferedImage.TYPE_INT_RGB);
    for (int y = 0; y < SIZE; y++) {
      for (int x = 0; x < SIZE; x++) {
        int shade = (x % 32 == 0 ? -24 : 0) + grain.nextInt(9) - 4;
        image.setRGB(x, y, shifted(colour, shade));
      }
    }
    save(image, file, when);
  }

  private static void save(BufferedImage image, Path file, Instant when) throws IOException {
    ImageIO.write(image, "png", file.toFile());
    Files.setLastModifiedTime(file, FileTime.from(when));
  }

  private static int shifted(int colour, int by) {
    int out = 0;
    for (int shift = 16; shift >= 0; shift -= 8) {
      out |= Math.max(0, Math.min(255, (colour >> shift & 255) + by)) << shift;
    }
    return out;
  }
}
