package dev.kavrin.demo;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import javax.imageio.ImageIO;

/** The pictures the carriage is painted with. */
final class Pictures {
  private static final int SIZE = 256;

  private Pictures() {}

  static void write(Path folder) throws IOException {
    Files.createDirectories(folder);
    paint(folder.resolve("body.png"), 0x8C2F26);
    paint(folder.resolve("fittings.png"), 0xB98F3C);
  }

  private static void paint(Path file, int colour) throws IOException {
    Random grain = new Random(colour);
    BufferedImage image = new BufferedImage(SIZE, SIZE, BufferedImage.TYPE_INT_RGB);
    for (int y = 0; y < SIZE; y++) {
      for (int x = 0; x < SIZE; x++) {
        int shade = (x % 32 == 0 ? -24 : 0) + grain.nextInt(9) - 4;
        image.setRGB(x, y, shifted(colour, shade));
      }
    }
    ImageIO.write(image, "png", file.toFile());
  }

  private static int shifted(int colour, int by) {
    int out = 0;
    for (int shift = 16; shift >= 0; shift -= 8) {
      out |= Math.max(0, Math.min(255, (colour >> shift & 255) + by)) << shift;
    }
    return out;
  }
}
