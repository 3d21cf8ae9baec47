package dev.kavrin.core.health;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.luben.zstd.ZstdOutputStream;
import dev.kavrin.core.compare.SampleFiles;
import io.jhdf.HdfFile;
import io.jhdf.api.WritableGroup;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.Random;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import javax.sound.sampled.AudioFileFormat;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;
import javax.sound.sampled.AudioSystem;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.transform.TransformerFactory;
import javax.xml.transform.dom.DOMSource;
import javax.xml.transform.stream.StreamResult;

/**
 * Whole files of all formats, as libraries that are not ours write them, or by their published
 * layout.
 */
record WholeFiles(Path folder) {
  static byte[] noise(int size, long seed) {
    byte[] bytes = new byte[size];
    new Random(seed).nextBytes(bytes);
    return bytes;
  }

  private static String lines(int count) {
    StringBuilder text = new StringBuilder();
    Random random = new Random(5);
    for (int i = 0; i < count; i++) {
      text.append("sleeper ").append(i).append(" at ").append(random.nextInt(1000)).append('\n');
    }
    return text.toString();
  }

  /** One file of a format, as a library that is not ours writes it, or by its published layout. */
  Path of(String ext) throws Exception {
    Path file = folder.resolve("track." + ext);
    if (Files.exists(file)) {
      return file;
    }
    switch (ext) {
      case "zip" -> {
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
          for (String name : new String[] {"scene.txt", "pictures/oak.bin", "notes.txt"}) {
            zip.putNextEntry(new ZipEntry(name));
            zip.write(
                name.endsWith("bin")
                    ? noise(9_000, 1)
                    : lines(400).getBytes(StandardCharsets.UTF_8));
            zip.closeEntry();
          }
        }
      }
      case "gz" -> pack(new GZIPOutputStream(Files.newOutputStream(file)));
      case "zst" -> {
        ZstdOutputStream out = new ZstdOutputStream(Files.newOutputStream(file));
        out.setChecksum(true);
        pack(out);
      }
      case "png" -> {
        BufferedImage picture = new BufferedImage(160, 90, BufferedImage.TYPE_INT_RGB);
        Random random = new Random(3);
        for (int i = 0; i < 160 * 90; i++) {
          picture.setRGB(i % 160, i / 160, random.nextInt());
        }
        ImageIO.write(picture, "png", file.toFile());
      }
      case "wav" ->
          AudioSystem.write(
              new AudioInputStream(
                  new ByteArrayInputStream(noise(20_000, 4)),
                  new AudioFormat(22_050, 16, 1, true, false),
                  10_000),
              AudioFileFormat.Type.WAVE,
              file.toFile());
      case "sqlite" -> database(file);
      case "h5" -> {
        try (var h5 = HdfFile.write(file)) {
          WritableGroup group = h5.putGroup("disc");
          group.putDataset("heat", new Random(8).doubles(2_000).toArray());
          h5.putDataset("step", new int[] {142});
        }
      }
      case "xml" -> {
        var document = DocumentBuilderFactory.newInstance().newDocumentBuilder().newDocument();
        var root = document.appendChild(document.createElement("incline"));
        for (int i = 0; i < 300; i++) {
          root.appendChild(document.createElement("sleeper")).setTextContent("at " + i + " m");
        }
        TransformerFactory.newInstance()
            .newTransformer()
            .transform(new DOMSource(document), new StreamResult(file.toFile()));
      }
      case "jpg", "tif", "gif", "bmp" -> {
        BufferedImage picture = new BufferedImage(160, 90, BufferedImage.TYPE_INT_RGB);
        Random random = new Random(3);
        for (int i = 0; i < 160 * 90; i++) {
          picture.setRGB(i % 160, i / 160, random.nextInt());
        }
        assertThat(ImageIO.write(picture, ext, file.toFile())).isTrue();
      }
      case "glb", "gltf", "obj", "dxf" -> Files.write(file, SampleFiles.of(ext));
      case "svg" ->
          Files.writeString(
              file, "<svg xmlns='http://www.w3.org/2000/svg'><g id='a'><path d='M0 0'/></g></svg>");
      case "csv" -> Files.writeString(file, "time,heat\n" + "1.5,293\n".repeat(300));
      case "stl" -> Files.write(file, binaryStl(500));
      case "ply" -> Files.write(file, binaryPly(600));
      case "vtk" -> Files.write(file, legacyVtk());
      default -> throw new IllegalArgumentException(ext);
    }
    return file;
  }

  private static void pack(OutputStream packed) throws IOException {
    try (packed) {
      packed.write(lines(3000).getBytes(StandardCharsets.UTF_8));
    }
  }

  private static void database(Path file) throws Exception {
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file);
        var s = c.createStatement()) {
      s.execute("create table part(id integer primary key, name text)");
      s.execute("create index by_name on part(name)");
      c.setAutoCommit(false);
      for (int i = 0; i < 400; i++) {
        s.execute("insert into part(name) values('bolt " + i + "')");
      }
      c.commit();
    }
  }

  /** 80 bytes of head, the count, then 12 floats and 2 bytes a facet. */
  private static byte[] binaryStl(int facets) {
    ByteBuffer b = ByteBuffer.allocate(84 + 50 * facets).order(ByteOrder.LITTLE_ENDIAN);
    b.position(80).putInt(facets);
    Random random = new Random(6);
    for (int i = 0; i < facets; i++) {
      for (int n = 0; n < 12; n++) {
        b.putFloat(random.nextFloat());
      }
      b.putShort((short) 0);
    }
    return b.array();
  }

  private static byte[] binaryPly(int points) {
    String head =
        "ply\nformat binary_little_endian 1.0\nelement vertex "
            + points
            + "\nproperty float x\nproperty float y\nproperty float z\nelement face "
            + (points - 2)
            + "\nproperty list uchar int vertex_indices\nend_header\n";
    ByteBuffer b =
        ByteBuffer.allocate(head.length() + points * 12 + (points - 2) * 13)
            .order(ByteOrder.LITTLE_ENDIAN);
    b.put(head.getBytes(StandardCharsets.US_ASCII));
    for (int i = 0; i < points * 3; i++) {
      b.putFloat(i * 0.25f);
    }
    for (int i = 0; i < points - 2; i++) {
      b.put((byte) 3).putInt(i).putInt(i + 1).putInt(i + 2);
    }
    return b.array();
  }

  private static byte[] legacyVtk() {
    StringBuilder text =
        new StringBuilder(
            "# vtk DataFile Version 3.0\nheat\nASCII\nDATASET STRUCTURED_POINTS\n"
                + "DIMENSIONS 20 20 1\nORIGIN 0 0 0\nSPACING 1 1 1\nPOINT_DATA 400\n"
                + "SCALARS heat float 1\nLOOKUP_TABLE default\n");
    for (int i = 0; i < 400; i++) {
      text.append(20 + i * 0.5).append(i % 20 == 19 ? '\n' : ' ');
    }
    return text.toString().getBytes(StandardCharsets.US_ASCII);
  }
}
