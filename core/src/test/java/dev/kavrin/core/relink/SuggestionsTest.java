package dev.kavrin.core.relink;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.picture.Pictures;
import dev.kavrin.core.relink.Suggestion.Why;
import java.awt.Color;
import java.awt.GradientPaint;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Real pictures, broken in all the ways people break links: the right one comes first. */
class SuggestionsTest {
  private static final String[] WORDS = {
    "birch", "floor", "stone", "canopy", "linen", "rust", "gravel", "tile", "copper", "moss"
  };
  private static final int BREAKAGES = Boolean.getBoolean("kavrin.full") ? 200 : 40;

  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();
  private final Publisher publisher = new Publisher(disk, "test");

  private final Suggestions suggestions =
      new Suggestions(
          new Suggestions.Looking() {
            @Override
            public long size(Path file) throws IOException {
              return Files.size(file);
            }

            @Override
            public ContentId identify(Path file) throws IOException {
              return publisher.identify(file);
            }

            @Override
            public Optional<PictureLikeness> look(Path file) throws IOException {
              try (SeekableByteChannel in = disk.read(file)) {
                Optional<byte[]> png =
                    Pictures.draw(
                        in,
                        file.getFileName().toString(),
                        new SiblingFilesOnDisk(disk, file),
                        Frame.SMALL);
                return png.isEmpty() ? Optional.empty() : PictureLikeness.of(png.get());
              }
            }
          });

  private static BufferedImage picture(Random random) {
    int width = 200 + random.nextInt(400);
    int height = 200 + random.nextInt(400);
    BufferedImage picture = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    Graphics2D brush = picture.createGraphics();
    brush.setPaint(
        new GradientPaint(
            0, 0, new Color(random.nextInt()), width, height, new Color(random.nextInt())));
    brush.fillRect(0, 0, width, height);
    for (int i = 0; i < 12; i++) {
      brush.setColor(new Color(random.nextInt()));
      brush.fillOval(
          random.nextInt(width), random.nextInt(height), width / 4, 10 + random.nextInt(90));
    }
    brush.dispose();
    return picture;
  }

  private static BufferedImage resized(BufferedImage from, double by) {
    int width = (int) (from.getWidth() * by);
    int height = (int) (from.getHeight() * by);
    BufferedImage to = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    Graphics2D brush = to.createGraphics();
    brush.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BICUBIC);
    brush.drawImage(from, 0, 0, width, height, null);
    brush.dispose();
    return to;
  }

  private static Path write(BufferedImage picture, Path file, String format) throws IOException {
    Files.createDirectories(file.getParent());
    assertThat(ImageIO.write(picture, format, file.toFile())).isTrue();
    return file;
  }

  private String name(Random random, int number) {
    return WORDS[random.nextInt(WORDS.length)]
        + "-"
        + WORDS[random.nextInt(WORDS.length)]
        + "-"
        + number;
  }

  @Test
  void theRightOneComesFirst() throws IOException {
    Random random = new Random(20311107);
    List<BufferedImage> pictures = new ArrayList<>();
    List<Path> files = new ArrayList<>();
    for (int i = 0; i < 40; i++) {
      pictures.add(picture(random));
      Path file = folder.resolve("work/" + (i % 4) + "/" + name(random, i) + ".png");
      files.add(write(pictures.get(i), file, "png"));
    }
    int first = 0;
    List<String> wrong = new ArrayList<>();
    for (int round = 0; round < BREAKAGES; round++) {
      int which = random.nextInt(files.size());
      Path was = files.get(which);
      Path held = Files.copy(was, folder.resolve("held-" + round + ".png"));
      Path now = broken(round, was, pictures.get(which), random);
      List<Path> standing;
      try (Stream<Path> all = Files.walk(folder.resolve("work"))) {
        standing = all.filter(Files::isRegularFile).toList();
      }
      Lost lost = new Lost(was, publisher.identify(held), round % 4 == 3 ? null : held);
      List<Suggestion> found = suggestions.of(lost, standing);
      Path expected = now != null ? now : lost.held();
      boolean right =
          expected == null
              ? found.isEmpty() || found.get(0).why() != Why.SAME_CONTENT
              : !found.isEmpty() && found.get(0).file().equals(expected);
      first += right ? 1 : 0;
      if (!right) {
        wrong.add(round + " " + was + " is " + expected + ", suggested " + found);
      }
      Files.deleteIfExists(now == null ? held : now);
      Files.copy(held.toFile().exists() ? held : write(pictures.get(which), held, "png"), was);
    }
    System.out.printf("Right candidate first in %d of %d%n", first, BREAKAGES);
    assertThat(first).as(wrong.toString()).isGreaterThanOrEqualTo(BREAKAGES * 95 / 100);
  }

  /** Where it is now; null if it is gone. */
  private Path broken(int round, Path was, BufferedImage picture, Random random)
      throws IOException {
    Path now =
        switch (round % 5) {
          case 0 ->
              Files.move(
                  was,
                  Files.createDirectories(folder.resolve("work/moved")).resolve(was.getFileName()));
          case 1 -> Files.move(was, was.resolveSibling(name(random, 1000 + round) + ".png"));
          case 2 -> {
            String stem = was.getFileName().toString().replace(".png", "");
            double by = 0.3 + random.nextDouble();
            yield write(resized(picture, by), was.resolveSibling(stem + "_small.png"), "png");
          }
          case 3 -> {
            String jpg = was.getFileName().toString().replace(".png", ".jpg");
            yield write(picture, was.resolveSibling(jpg), "jpg");
          }
          default -> null;
        };
    Files.deleteIfExists(was);
    return now;
  }
}
