package dev.kavrin.core.content.picture;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.imageio.IIOException;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.event.IIOReadWarningListener;
import javax.imageio.plugins.tiff.BaselineTIFFTagSet;
import javax.imageio.plugins.tiff.TIFFDirectory;
import javax.imageio.stream.ImageInputStream;

/** JPEG, TIFF, BMP and GIF pictures, through the decoders of the Java platform. */
public final class RasterReader implements ContentReader {
  private static final long MOST_PIXELS = 24_000_000;

  @Override
  public boolean reads(String ext) {
    return List.of("jpg", "jpeg", "tif", "tiff", "bmp", "gif").contains(ext);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("picture");
    if (in.size() == 0) {
      return readings.empty();
    }
    if (told(in) > in.size()) {
      return readings.cutShort(in.size(), "Its head tells of " + told(in) + " bytes.");
    }
    ImageIO.setUseCache(false);
    try (ImageInputStream stream = ImageIO.createImageInputStream(Bytes.from(in, 0))) {
      Iterator<ImageReader> decoders = ImageIO.getImageReaders(stream);
      if (!decoders.hasNext()) {
        return readings.broken(0, "It does not begin like a picture of that kind.");
      }
      ImageReader decoder = decoders.next();
      try {
        return decoded(decoder, stream, in.size(), readings);
      } finally {
        decoder.dispose();
      }
    } catch (IIOException | RuntimeException broken) {
      return readings.broken(-1, "It cannot be drawn to its end: " + broken.getMessage());
    }
  }

  private static Reading decoded(
      ImageReader decoder, ImageInputStream stream, long size, Readings readings)
      throws IOException {
    decoder.setInput(stream);
    decoder.addIIOReadWarningListener(
        (IIOReadWarningListener)
            (source, words) -> {
              if (words.matches("(?i).*(truncat|premature|corrupt|missing).*")) {
                readings.found(Finding.doubtful("picture", -1, "The decoder says: " + words));
              }
            });
    long width = decoder.getWidth(0);
    long height = decoder.getHeight(0);
    long end = decoder.getFormatName().equalsIgnoreCase("tif") ? lastOf(decoder) : 0;
    if (end > size) {
      return readings.cutShort(size, "Its pixels reach to byte " + end + ".");
    }
    Map<String, Measure> measures = new LinkedHashMap<>();
    measures.put("width", new Measure(width, ""));
    measures.put("height", new Measure(height, ""));
    ImageReadParam how = decoder.getDefaultReadParam();
    int skip = (int) Math.ceil(Math.sqrt((double) width * height / MOST_PIXELS));
    if (skip > 1) {
      how.setSourceSubsampling(skip, skip, 0, 0);
    }
    BufferedImage picture = decoder.read(0, how);
    return readings
        .part(Part.of("picture", null, "picture", "picture", measures, digest(picture)))
        .done();
  }

  /** Behind the last pixel of a TIFF picture (TIFF 6.0, sections 8 and 15), by its own table. */
  private static long lastOf(ImageReader decoder) throws IOException {
    TIFFDirectory table = TIFFDirectory.createFromMetadata(decoder.getImageMetadata(0));
    long last = 0;
    for (int[] tags :
        new int[][] {
          {BaselineTIFFTagSet.TAG_STRIP_OFFSETS, BaselineTIFFTagSet.TAG_STRIP_BYTE_COUNTS},
          {BaselineTIFFTagSet.TAG_TILE_OFFSETS, BaselineTIFFTagSet.TAG_TILE_BYTE_COUNTS}
        }) {
      if (table.containsTIFFField(tags[0]) && table.containsTIFFField(tags[1])) {
        long[] from = table.getTIFFField(tags[0]).getAsLongs();
        long[] bytes = table.getTIFFField(tags[1]).getAsLongs();
        for (int i = 0; i < Math.min(from.length, bytes.length); i++) {
          last = Math.max(last, from[i] + bytes[i]);
        }
      }
    }
    return last;
  }

  /** A BMP picture tells its own size in bytes 2 to 5; zero says nothing. */
  private static long told(SeekableByteChannel in) throws IOException {
    ByteBuffer head = Bytes.head(in, 6);
    boolean bmp = head.remaining() == 6 && head.get(0) == 'B' && head.get(1) == 'M';
    return bmp ? Integer.toUnsignedLong(head.getInt(2)) : 0;
  }

  private static String digest(BufferedImage picture) {
    ContentHash hash = new ContentHash();
    int[] row = new int[picture.getWidth()];
    ByteBuffer bytes = ByteBuffer.allocate(row.length * 4);
    for (int y = 0; y < picture.getHeight(); y++) {
      picture.getRGB(0, y, row.length, 1, row, 0, row.length);
      bytes.clear().asIntBuffer().put(row);
      hash.add(bytes.array());
    }
    return hash.id().digest();
  }
}
