package dev.kavrin.core.content.field;

import dev.kavrin.core.content.Beside;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.markup.XmlReader;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * VTK in its XML form. With data appended raw it is no XML as a whole: then each array's offset and
 * length must lie in the file, and its end mark be there. Source: "The VTK User's Guide", chapter
 * 19, "XML File Formats".
 */
public final class VtkXmlReader implements ContentReader {
  private static final int LONGEST_HEAD = 4_000_000;
  private static final Pattern ARRAY = Pattern.compile("<DataArray\\b[^>]*>");
  private static final Pattern OFFSET = Pattern.compile("\\boffset\\s*=\\s*\"(\\d+)\"");
  private static final Pattern NAME = Pattern.compile("\\bName\\s*=\\s*\"([^\"]*)\"");
  private static final String MARK = "<AppendedData";
  private static final String END = "</VTKFile>";

  private final XmlReader xml = new XmlReader();

  @Override
  public boolean reads(String ext) {
    return List.of("vti", "vtu", "vtp", "vtr", "vts").contains(ext);
  }

  @Override
  public Reading read(SeekableByteChannel in, Beside beside) throws IOException {
    Readings readings = new Readings("vtk-xml");
    long size = in.size();
    if (size == 0) {
      return readings.empty();
    }
    ByteBuffer head = Bytes.head(in, LONGEST_HEAD);
    String text = StandardCharsets.ISO_8859_1.decode(head.slice()).toString();
    int mark = text.indexOf(MARK);
    int raw = mark < 0 ? -1 : text.indexOf("encoding=\"raw\"", mark);
    int under = raw < 0 ? -1 : text.indexOf('_', raw);
    if (mark < 0 || under < 0) {
      return xml.read(in);
    }
    int tail = (int) Math.min(size, 256);
    String end =
        StandardCharsets.ISO_8859_1.decode(Bytes.at(in, size - tail, tail)).toString().strip();
    if (!end.endsWith(END)) {
      return readings.cutShort(size, "Its end mark is missing.");
    }
    boolean wide = text.contains("header_type=\"UInt64\"");
    ByteOrder order =
        text.contains("byte_order=\"BigEndian\"") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN;
    Matcher arrays = ARRAY.matcher(text.substring(0, mark));
    while (arrays.find()) {
      Matcher offset = OFFSET.matcher(arrays.group());
      Matcher name = NAME.matcher(arrays.group());
      if (offset.find()) {
        String label = name.find() ? name.group(1) : "array";
        long at = under + 1 + Long.parseLong(offset.group(1));
        int width = wide ? 8 : 4;
        if (at + width > size) {
          return readings.cutShort(size, "The array " + label + " begins behind the end.");
        }
        ByteBuffer told = Bytes.at(in, at, width).order(order);
        long length = wide ? told.getLong() : Integer.toUnsignedLong(told.getInt());
        if (length < 0 || at + width + length > size) {
          return readings.cutShort(size, "The array " + label + " is not there in full.");
        }
        readings.part(
            Part.of(
                label + "@" + offset.group(1),
                null,
                label,
                "field",
                Map.of("bytes", new Measure(length, "B")),
                null));
      }
    }
    return readings.done();
  }
}
