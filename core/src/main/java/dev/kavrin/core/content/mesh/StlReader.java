package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.TextLines;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;

/**
 * STL, both kinds: 84 + 50·n bytes, or the text form to its {@code endsolid}. Source: M. Burns,
 * "Automated Fabrication", 1993, section 6.5 (from memory).
 */
public final class StlReader implements ShapeReader {
  static final int HEADER = 84;
  private static final int FACET = 50;
  private static final int AT_ONCE = 1000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("stl");
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return read(in, new MeshBuilder());
  }

  @Override
  public Shapes shapes(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    MeshBuilder builder = new MeshBuilder();
    return read(in, builder).damaged() ? Shapes.NONE : builder.shapes();
  }

  private static Reading read(SeekableByteChannel in, MeshBuilder tally) throws IOException {
    Readings readings = new Readings("stl");
    long size = in.size();
    if (size == 0) {
      return readings.empty();
    }
    long facets = size < HEADER ? -1 : Integer.toUnsignedLong(Bytes.at(in, 80, 4).getInt());
    if (facets >= 0 && HEADER + FACET * facets == size) {
      return binary(in, facets, tally, readings);
    }
    String start = StandardCharsets.ISO_8859_1.decode(Bytes.head(in, 512)).toString().strip();
    if (start.startsWith("solid") && !start.contains("\0")) {
      return text(in, tally, readings);
    }
    if (facets >= 0 && HEADER + FACET * facets > size) {
      return readings.cutShort(
          size,
          "Its head tells of " + facets + " facets, " + (HEADER + FACET * facets) + " bytes.");
    }
    return readings.broken(0, "Its size of " + size + " bytes does not fit its number of facets.");
  }

  private static Reading binary(
      SeekableByteChannel in, long facets, MeshBuilder tally, Readings readings)
      throws IOException {
    InputStream bytes = Bytes.from(in, HEADER);
    byte[] block = new byte[FACET * AT_ONCE];
    ByteBuffer numbers = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN);
    for (long done = 0; done < facets; ) {
      int count = (int) Math.min(AT_ONCE, facets - done);
      if (bytes.readNBytes(block, 0, count * FACET) < count * FACET) {
        return readings.cutShort(in.size(), "It ends inside its facets.");
      }
      for (int i = 0; i < count; i++) {
        for (int corner = 0; corner < 3; corner++) {
          int at = i * FACET + 12 + corner * 12;
          tally.point(numbers.getFloat(at), numbers.getFloat(at + 4), numbers.getFloat(at + 8));
        }
        tally.facet();
      }
      tally.hash(block, count * FACET);
      done += count;
    }
    return tally.into(readings);
  }

  private static Reading text(SeekableByteChannel in, MeshBuilder tally, Readings readings)
      throws IOException {
    TextLines lines = new TextLines(Bytes.from(in, 0), StandardCharsets.ISO_8859_1);
    int corners = 0;
    boolean open = false;
    long line = 0;
    for (String text = lines.next(); text != null; text = lines.next()) {
      line++;
      String[] words = text.strip().split("\\s+");
      switch (words[0].toLowerCase(java.util.Locale.ROOT)) {
        case "solid" -> {
          open = true;
          tally.begin(text.strip().substring("solid".length()));
        }
        case "endsolid" -> open = false;
        case "vertex" -> {
          if (words.length < 4 || !tally.point(words[1], words[2], words[3])) {
            return readings.broken(-1, "Line " + line + " is no vertex.");
          }
          corners++;
        }
        case "endfacet" -> {
          if (corners != 3) {
            return readings.broken(
                -1, "The facet at line " + line + " has " + corners + " corners.");
          }
          tally.facet();
          corners = 0;
        }
        case "facet", "outer", "endloop", "" -> {}
        default -> {
          return readings.broken(-1, "Line " + line + " is no STL.");
        }
      }
      byte[] bytes = text.strip().getBytes(StandardCharsets.ISO_8859_1);
      tally.hash(bytes, bytes.length);
    }
    if (open || corners != 0) {
      return readings.cutShort(in.size(), "It ends before its end mark.");
    }
    return tally.into(readings);
  }
}
