package dev.kavrin.core.picture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.compare.SampleFiles;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.gltf.Meshes;
import dev.kavrin.core.content.mesh.MeshData;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import javax.imageio.ImageIO;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.junit.jupiter.api.Test;

/** Pictures against the geometry of what they show. */
class PicturesTest {
  private static final int WIDTH = 640;
  private static final int HEIGHT = 400;
  private static final int SPOTS = Boolean.getBoolean("kavrin.full") ? 400 : 60;

  private static Optional<byte[]> drawn(String name, byte[] bytes) throws IOException {
    return Pictures.draw(
        new SeekableInMemoryByteChannel(bytes),
        name,
        SiblingFiles.NOTHING,
        new Frame(WIDTH, HEIGHT, null));
  }

  private static BufferedImage picture(MeshData... meshes) throws IOException {
    GlbWriter writer = new GlbWriter();
    for (int i = 0; i < meshes.length; i++) {
      writer.mesh("Part " + i, -1, meshes[i], null, null, -1);
    }
    return image(drawn("a.glb", writer.bytes(Map.of())).orElseThrow());
  }

  private static BufferedImage image(byte[] png) throws IOException {
    return ImageIO.read(new ByteArrayInputStream(png));
  }

  private static long covered(BufferedImage image) {
    long covered = 0;
    for (int i = 0; i < WIDTH * HEIGHT; i++) {
      covered += image.getRGB(i % WIDTH, i / WIDTH) >>> 24 == 0 ? 0 : 1;
    }
    return covered;
  }

  private static long differing(BufferedImage a, BufferedImage b) {
    long differing = 0;
    for (int i = 0; i < WIDTH * HEIGHT; i++) {
      differing += a.getRGB(i % WIDTH, i / WIDTH) == b.getRGB(i % WIDTH, i / WIDTH) ? 0 : 1;
    }
    return differing;
  }

  /** What a body's box is fitted into: pixels for one unit. */
  private static double scale(double[] half) {
    double[] towards = new ModelPicture().towards();
    double turn = Math.atan2(towards[0], towards[2]);
    double tilt = Math.asin(towards[1]);
    double across = 2 * (half[0] * Math.cos(turn) + half[2] * Math.sin(turn));
    double along =
        2
            * (half[0] * Math.sin(turn) * Math.sin(tilt)
                + half[1] * Math.cos(tilt)
                + half[2] * Math.cos(turn) * Math.sin(tilt));
    return 0.92 * Math.min(WIDTH / across, HEIGHT / along);
  }

  /** Seen without perspective a sphere of radius r covers π r². */
  @Test
  void aSphereCoversADisc() throws IOException {
    double scale = scale(new double[] {2, 2, 2});
    assertThat((double) covered(picture(Meshes.sphere(2, 160))))
        .isCloseTo(Math.PI * 4 * scale * scale, within(0.01 * Math.PI * 4 * scale * scale));
  }

  /** Seen from a direction (x, y, z) a cube of side s covers s² (|x| + |y| + |z|). */
  @Test
  void aCubeCoversItsShadow() throws IOException {
    double[] d = new ModelPicture().towards();
    double area = (Math.abs(d[0]) + Math.abs(d[1]) + Math.abs(d[2])) * 9;
    double scale = scale(new double[] {1.5, 1.5, 1.5});
    assertThat((double) covered(picture(Meshes.cube(3))))
        .isCloseTo(area * scale * scale, within(0.01 * area * scale * scale));
  }

  @Test
  void theSameFileGivesTheSamePixelsAndWhatIsMissingOrTurnedShows() throws IOException {
    for (String ext : new String[] {"glb", "gltf", "obj", "dxf"}) {
      byte[] file = SampleFiles.of(ext);
      assertThat(drawn("a." + ext, file).orElseThrow())
          .as(ext)
          .isEqualTo(drawn("a." + ext, file.clone()).orElseThrow());
    }
    MeshData ring = Meshes.torus(3, 1, 40);
    BufferedImage whole = picture(ring, Meshes.cube(1));
    assertThat(differing(whole, picture(ring, Meshes.cube(1)))).isZero();
    assertThat(differing(whole, picture(ring))).isGreaterThan(100);
    assertThat(differing(whole, picture(ring.turnedRound(), Meshes.cube(1))))
        .isGreaterThan(covered(whole) / 2);
  }

  /** A line meets a ball if it passes the centre closer than the radius. */
  @Test
  void aSpotIsFilledByWhatTheGeometrySays() throws IOException {
    MeshData ball = Meshes.sphere(2, 400);
    MeshData ring = Meshes.torus(6, 1, 40);
    GlbWriter writer = new GlbWriter();
    writer.mesh("Ball", -1, ball, null, null, -1);
    writer.mesh("Ring", -1, ring, null, null, -1);
    byte[] file = writer.bytes(Map.of());
    Frame frame = new Frame(WIDTH, HEIGHT, null);
    Random random = new Random(20260311);
    int met = 0;
    for (int i = 0; i < SPOTS; i++) {
      Sight sight = sight(file, "a.glb", frame, random.nextDouble(), random.nextDouble());
      double distance = fromOrigin(sight);
      if (Math.abs(distance - 2) > 0.01) {
        boolean hit = distance < 2;
        met += hit ? 1 : 0;
        assertThat(met(sight, file, "a.glb").contains("Ball")).as("%s", distance).isEqualTo(hit);
        assertThat(sight.meets(ball.box()) || !hit).isTrue();
      }
    }
    assertThat(met).isBetween(SPOTS / 40, SPOTS / 2);
  }

  /** The pixel a part covers in the picture is a spot that the part fills. */
  @Test
  void aSpotIsFilledWhereThePictureShowsIt() throws IOException {
    GlbWriter writer = new GlbWriter();
    writer.mesh("Ring", -1, Meshes.torus(6, 1, 60), null, null, -1);
    byte[] glb = writer.bytes(Map.of());
    byte[] dxf =
        ("0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nTrack\n10\n0\n20\n0\n11\n90\n21\n40\n"
                + "0\nENDSEC\n0\nEOF\n")
            .getBytes();
    Frame frame = new Frame(WIDTH, HEIGHT, null);
    BufferedImage ring = image(drawn("a.glb", glb).orElseThrow());
    BufferedImage line = image(drawn("a.dxf", dxf).orElseThrow());
    for (int y = 3; y < HEIGHT; y += 17) {
      for (int x = 3; x < WIDTH; x += 17) {
        Sight through = sight(glb, "a.glb", frame, (x + 0.5) / WIDTH, (y + 0.5) / HEIGHT);
        boolean shown = ring.getRGB(x, y) >>> 24 != 0;
        assertThat(met(through, glb, "a.glb").contains("Ring")).as("%d, %d", x, y).isEqualTo(shown);
        if (line.getRGB(x, y) >>> 24 != 0) {
          Sight onSheet = sight(dxf, "a.dxf", frame, (x + 0.5) / WIDTH, (y + 0.5) / HEIGHT);
          assertThat(met(onSheet, dxf, "a.dxf")).containsExactly("Track");
        }
      }
    }
    assertThat(met(sight(dxf, "a.dxf", frame, 0.1, 0.1), dxf, "a.dxf")).isEmpty();
  }

  private static Sight sight(byte[] file, String name, Frame frame, double x, double y)
      throws IOException {
    return Sight.through(
            new SeekableInMemoryByteChannel(file), name, SiblingFiles.NOTHING, frame, x, y)
        .orElseThrow();
  }

  private static List<String> met(Sight sight, byte[] file, String name) throws IOException {
    return sight.met(new SeekableInMemoryByteChannel(file), name, SiblingFiles.NOTHING);
  }

  /** How far the line passes from the origin. */
  private static double fromOrigin(Sight sight) {
    double along = 0;
    double square = 0;
    for (int k = 0; k < 3; k++) {
      along += sight.from()[k] * sight.along()[k];
      square += sight.from()[k] * sight.from()[k];
    }
    return Math.sqrt(Math.max(0, square - along * along));
  }

  @Test
  void aDrawingIsSeenWithoutWhatIsSwitchedOff() throws IOException {
    String head = "0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n0\nLAYER\n2\nSigns\n62\n%d\n70\n0\n";
    String rest =
        "0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nLamp\n"
            + "0\nCIRCLE\n8\nSigns\n10\n0\n20\n0\n40\n5\n0\nENDBLK\n0\nENDSEC\n"
            + "0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nTrack\n10\n0\n20\n0\n11\n90\n21\n40\n"
            + "0\nINSERT\n2\nLamp\n8\nSigns\n10\n45\n20\n20\n41\n2\n42\n2\n0\nENDSEC\n0\nEOF\n";
    byte[] on = (head.formatted(7) + rest).getBytes();
    byte[] off = (head.formatted(-7) + rest).getBytes();
    long all = covered(image(drawn("a.dxf", on).orElseThrow()));
    long fewer = covered(image(drawn("a.dxf", off).orElseThrow()));
    assertThat(fewer).isBetween(300L, 700L);
    assertThat(all).isGreaterThan(fewer + 200);
  }

  @Test
  void aFieldRunsFromDarkToLightAndNoNumberStandsOut() {
    Canvas canvas =
        FieldPicture.draw(new Slice("heat", "K", 1, 4, new double[] {1, 2, 3, Double.NaN}), 80, 20);
    assertThat(canvas.png())
        .isEqualTo(
            FieldPicture.draw(
                    new Slice("heat", "K", 1, 4, new double[] {10, 20, 30, Double.NaN}), 80, 20)
                .png());
    assertThat(canvas.png())
        .isNotEqualTo(
            FieldPicture.draw(new Slice("heat", "K", 1, 4, new double[] {1, 2, 3, 3}), 80, 20)
                .png());
  }

  @Test
  void whatCannotBeSeenHasNoPicture() throws IOException {
    assertThat(drawn("a.mystery", new byte[] {1, 2, 3})).isEmpty();
    assertThat(drawn("a.json", "{}".getBytes())).isEmpty();
    assertThat(drawn("a.png", new byte[] {1, 2, 3})).isEmpty();
    assertThat(drawn("a.glb", new byte[] {103, 108, 84, 70})).isEmpty();
  }
}
