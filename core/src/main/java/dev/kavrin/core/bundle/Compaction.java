package dev.kavrin.core.bundle;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.disk.SinkStream;
import jakarta.annotation.Nullable;
import java.awt.image.BufferedImage;
import java.awt.image.DataBufferByte;
import java.io.BufferedOutputStream;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;
import javax.imageio.ImageIO;

/**
 * Makes files smaller without losing a bit: plain pictures become PNG, what shrinks by a fiftieth
 * at least is packed by Zstandard (RFC 8878), the rest stays as it is. The way back gives the very
 * bytes that were there.
 */
public enum Compaction implements Form {
  /** Byte for byte. */
  NONE("") {
    @Override
    public void write(Disk disk, Path source, Sink out) throws IOException {
      Copying.copy(disk, source, out);
    }

    @Override
    void back(InputStream packed, Frame frame, OutputStream out) throws IOException {
      packed.transferTo(out);
    }
  },

  /** One frame with its checksum. */
  ZSTD(".zst") {
    @Override
    public void write(Disk disk, Path source, Sink out) throws IOException {
      try (SeekableByteChannel in = disk.read(source);
          OutputStream packing = packing(new SinkStream(out))) {
        Bytes.from(in, 0).transferTo(packing);
      }
    }

    @Override
    void back(InputStream packed, Frame frame, OutputStream out) throws IOException {
      try (ZstdInputStream unpacking = new ZstdInputStream(packed)) {
        unpacking.transferTo(out);
      }
    }
  },

  /** The samples of a plain picture; what stands around them is kept aside. */
  PNG(".png") {
    @Override
    public void write(Disk disk, Path source, Sink out) throws IOException {
      try (SeekableByteChannel in = disk.read(source)) {
        Samples samples = Samples.of(in).orElseThrow(() -> new IOException(source + " changed"));
        ByteArrayOutputStream png = new ByteArrayOutputStream();
        ImageIO.write(picture(in, samples), "png", png);
        out.write(png.toByteArray(), 0, png.size());
      }
    }

    @Override
    void back(InputStream packed, Frame frame, OutputStream out) throws IOException {
      Samples samples = frame.samples();
      BufferedImage picture = ImageIO.read(new ByteArrayInputStream(checked(packed, samples)));
      out.write(frame.before());
      byte[] row = new byte[samples.stride()];
      byte[] points = ((DataBufferByte) plain(picture).getRaster().getDataBuffer()).getData();
      for (int i = 0; i < samples.height(); i++) {
        int y = samples.bottomUp() ? samples.height() - 1 - i : i;
        int from = y * samples.rowBytes();
        System.arraycopy(points, from, row, 0, samples.rowBytes());
        if (samples.channels() == 3 && !samples.blueFirst()) {
          turn(row, samples.rowBytes());
        }
        out.write(row);
      }
      out.write(frame.after());
    }
  };

  private static final int LEVEL = 9;
  private static final int TASTE = 1 << 20;
  private static final long MOST_AROUND = 1 << 16;

  private final String ending;

  Compaction(String ending) {
    this.ending = ending;
  }

  /** What the name of a packed file gets. */
  public String ending() {
    return ending;
  }

  /**
   * What stands around the samples of a picture.
   *
   * @param samples null for what is no picture
   */
  public record Frame(@Nullable Samples samples, byte[] before, byte[] after) {
    static final Frame NONE = new Frame(null, new byte[0], new byte[0]);
  }

  /** Writes the very bytes that were packed. */
  abstract void back(InputStream packed, Frame frame, OutputStream out) throws IOException;

  /** A form by its name in a list. */
  static Compaction of(String name) throws IOException {
    try {
      return valueOf(name);
    } catch (IllegalArgumentException unknown) {
      throw new IOException("The form " + name + " is not known here");
    }
  }

  /** A PNG that is as large as it should be; one made to hurt is not decoded. */
  private static byte[] checked(InputStream packed, @Nullable Samples samples) throws IOException {
    if (samples == null || !samples.isSmall()) {
      throw new IOException("the list says nothing useful about the picture");
    }
    int most = samples.rowBytes() * samples.height() + (1 << 20);
    byte[] png = packed.readNBytes(most);
    ByteBuffer head = ByteBuffer.wrap(png);
    boolean fits =
        png.length > 24
            && png.length < most
            && head.getInt(16) == samples.width()
            && head.getInt(20) == samples.height();
    if (!fits) {
      throw new IOException("it is not the picture the list tells of");
    }
    return png;
  }

  /** What pays for a file. */
  static Compaction of(Disk disk, Path source) throws IOException {
    try (SeekableByteChannel in = disk.read(source)) {
      if (isPlainPicture(in)) {
        return PNG;
      }
      long length = in.size();
      long middle = Math.max(0, length / 2 - TASTE / 2);
      byte[] taste = Bytes.between(in, middle, Math.min(length, middle + TASTE)).readAllBytes();
      ByteArrayOutputStream packed = new ByteArrayOutputStream();
      try (OutputStream packing = packing(packed)) {
        packing.write(taste);
      }
      return packed.size() * 50L < taste.length * 49L ? ZSTD : NONE;
    }
  }

  private static OutputStream packing(OutputStream out) throws IOException {
    ZstdOutputStream zstd = new ZstdOutputStream(new BufferedOutputStream(out, 1 << 16), LEVEL);
    zstd.setChecksum(true);
    return zstd;
  }

  static Frame frame(Disk disk, Path source) throws IOException {
    try (SeekableByteChannel in = disk.read(source)) {
      Samples samples = Samples.of(in).orElseThrow(() -> new IOException(source + " changed"));
      return new Frame(
          samples,
          Bytes.between(in, 0, samples.offset()).readAllBytes(),
          Bytes.between(in, samples.end(), in.size()).readAllBytes());
    }
  }

  private static boolean isPlainPicture(SeekableByteChannel in) throws IOException {
    Optional<Samples> samples = Samples.of(in);
    if (samples.isEmpty()
        || samples.get().offset() + in.size() - samples.get().end() > MOST_AROUND) {
      return false;
    }
    Samples at = samples.get();
    int rest = at.stride() - at.rowBytes();
    for (int row = 0; rest > 0 && row < at.height(); row++) {
      byte[] padding =
          Bytes.at(in, at.offset() + (long) row * at.stride() + at.rowBytes(), rest).array();
      if (!Arrays.equals(padding, new byte[rest])) {
        return false;
      }
    }
    return true;
  }

  private static BufferedImage picture(SeekableByteChannel in, Samples samples) throws IOException {
    int type =
        samples.channels() == 1 ? BufferedImage.TYPE_BYTE_GRAY : BufferedImage.TYPE_3BYTE_BGR;
    BufferedImage picture = new BufferedImage(samples.width(), samples.height(), type);
    byte[] points = ((DataBufferByte) picture.getRaster().getDataBuffer()).getData();
    InputStream rows = Bytes.between(in, samples.offset(), samples.end());
    for (int i = 0; i < samples.height(); i++) {
      byte[] row = rows.readNBytes(samples.stride());
      if (samples.channels() == 3 && !samples.blueFirst()) {
        turn(row, samples.rowBytes());
      }
      int y = samples.bottomUp() ? samples.height() - 1 - i : i;
      System.arraycopy(row, 0, points, y * samples.rowBytes(), samples.rowBytes());
    }
    return picture;
  }

  /** Red and blue of each point change places. */
  private static void turn(byte[] row, int bytes) {
    for (int i = 0; i + 2 < bytes; i += 3) {
      byte first = row[i];
      row[i] = row[i + 2];
      row[i + 2] = first;
    }
  }

  /** In the layout the samples are written from, however the decoder had it. */
  private static BufferedImage plain(BufferedImage picture) {
    boolean grey = picture.getRaster().getNumBands() == 1;
    int type = grey ? BufferedImage.TYPE_BYTE_GRAY : BufferedImage.TYPE_3BYTE_BGR;
    if (picture.getType() == type) {
      return picture;
    }
    BufferedImage plain = new BufferedImage(picture.getWidth(), picture.getHeight(), type);
    int[] row = new int[picture.getWidth() * picture.getRaster().getNumBands()];
    for (int y = 0; y < picture.getHeight(); y++) {
      picture.getRaster().getPixels(0, y, picture.getWidth(), 1, row);
      plain.getRaster().setPixels(0, y, picture.getWidth(), 1, row);
    }
    return plain;
  }
}
