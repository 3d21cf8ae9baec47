package dev.kavrin.core.content.field;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Fields;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.content.markup.XmlWalk;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;

/**
 * VTK in its XML form. With data appended raw it is no XML as a whole: then each array's offset and
 * length must lie in the file, and its end mark be there. Source: "The VTK User's Guide", chapter
 * 19, "XML File Formats".
 */
public final class VtkXmlReader implements FieldReader {
  private static final int LONGEST_HEAD = 4_000_000;
  private static final Pattern ARRAY = Pattern.compile("<DataArray\\b[^>]*>");
  private static final Pattern OFFSET = Pattern.compile("\\boffset\\s*=\\s*\"(\\d+)\"");
  private static final Pattern NAME = Pattern.compile("\\bName\\s*=\\s*\"([^\"]*)\"");
  private static final Pattern TYPE = Pattern.compile("\\btype\\s*=\\s*\"([^\"]*)\"");
  private static final int LARGEST_HELD = 64_000_000;
  private static final String MARK = "<AppendedData";
  private static final String END = "</VTKFile>";

  @Override
  public boolean reads(String ext) {
    return List.of("vti", "vtu", "vtp", "vtr", "vts").contains(ext);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return read(in, new Arrays(new Readings("vtk-xml"), null));
  }

  @Override
  public Fields fields(SeekableByteChannel in) {
    return part -> {
      Arrays arrays = new Arrays(new Readings("vtk-xml"), part);
      read(in, arrays);
      return arrays.held.held();
    };
  }

  @Override
  public Optional<Slice> slice(SeekableByteChannel in) {
    return Optional.empty();
  }

  private static Reading read(SeekableByteChannel in, Arrays arrays) throws IOException {
    long size = in.size();
    if (size == 0) {
      return arrays.readings.empty();
    }
    String text = StandardCharsets.ISO_8859_1.decode(Bytes.head(in, LONGEST_HEAD)).toString();
    int mark = text.indexOf(MARK);
    int raw = mark < 0 ? -1 : text.indexOf("encoding=\"raw\"", mark);
    int under = raw < 0 ? -1 : text.indexOf('_', raw);
    return mark < 0 || under < 0 ? within(in, arrays) : raw(in, text, mark, under, arrays);
  }

  /** Arrays that stand in the text. */
  private static Reading within(SeekableByteChannel in, Arrays arrays) throws IOException {
    Optional<Reading> broken =
        XmlWalk.through(
            in,
            arrays.readings,
            (event, at) -> {
              switch (event) {
                case XMLStreamConstants.START_ELEMENT -> arrays.begin(at);
                case XMLStreamConstants.CHARACTERS -> arrays.text(at.getText());
                case XMLStreamConstants.END_ELEMENT -> arrays.end(at.getLocalName());
                default -> {}
              }
            });
    return broken.orElseGet(arrays::done);
  }

  /** Arrays that stand, one behind the other, as they are in memory. */
  private static Reading raw(
      SeekableByteChannel in, String text, int mark, int under, Arrays arrays) throws IOException {
    long size = in.size();
    Readings readings = arrays.readings;
    int tail = (int) Math.min(size, 256);
    String end =
        StandardCharsets.ISO_8859_1.decode(Bytes.at(in, size - tail, tail)).toString().strip();
    if (!end.endsWith(END)) {
      return readings.cutShort(size, "Its end mark is missing.");
    }
    boolean wide = text.contains("header_type=\"UInt64\"");
    ByteOrder order =
        text.contains("byte_order=\"BigEndian\"") ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN;
    boolean packed = text.substring(0, mark).contains("compressor=");
    Matcher found = ARRAY.matcher(text.substring(0, mark));
    while (found.find()) {
      Matcher offset = OFFSET.matcher(found.group());
      Matcher name = NAME.matcher(found.group());
      Matcher type = TYPE.matcher(found.group());
      if (offset.find()) {
        String label = name.find() ? name.group(1) : "array";
        long at = under + 1 + Long.parseLong(offset.group(1));
        int width = wide ? 8 : 4;
        if (at + width > size) {
          return readings.cutShort(size, "The array " + label + " begins behind the end.");
        }
        ByteBuffer told = Bytes.at(in, at, width).order(order);
        long length = wide ? told.getLong() : Integer.toUnsignedLong(told.getInt());
        if (!packed && (length < 0 || at + width + length > size)) {
          return readings.cutShort(size, "The array " + label + " is not there in full.");
        }
        boolean small = !packed && length <= LARGEST_HELD && type.find();
        arrays.add(
            label,
            small
                ? sums ->
                    new VtkArrays(order, wide, false)
                        .numbers(Bytes.at(in, at + width, (int) length), type.group(1), sums)
                : null,
            length);
      }
    }
    return arrays.done();
  }

  /** Fills sums with an array's numbers. */
  private interface Filling {
    void into(FieldSums sums) throws IOException, VtkArrays.Broken;
  }

  /** What was found so far. */
  private static final class Arrays {
    private final Readings readings;
    private final String wanted;
    private final FieldSums held = new FieldSums(true);
    private final Map<String, Integer> taken = new HashMap<>();
    private final StringBuilder text = new StringBuilder();
    private ByteOrder order = ByteOrder.LITTLE_ENDIAN;
    private boolean wide;
    private boolean packed;
    private String name;
    private String type;
    private String form;
    private long odd;

    Arrays(Readings readings, @Nullable String wanted) {
      this.readings = readings;
      this.wanted = wanted;
    }

    void begin(XMLStreamReader at) {
      if (at.getLocalName().equals("VTKFile")) {
        order =
            "BigEndian".equals(at.getAttributeValue(null, "byte_order"))
                ? ByteOrder.BIG_ENDIAN
                : ByteOrder.LITTLE_ENDIAN;
        wide = "UInt64".equals(at.getAttributeValue(null, "header_type"));
        packed = at.getAttributeValue(null, "compressor") != null;
      } else if (at.getLocalName().equals("DataArray")) {
        name = at.getAttributeValue(null, "Name");
        name = name == null ? "array" : name;
        type = at.getAttributeValue(null, "type");
        form = at.getAttributeValue(null, "format");
        text.setLength(0);
      }
    }

    void text(String more) {
      if (name != null && text.length() < LARGEST_HELD) {
        text.append(more);
      }
    }

    void end(String element) {
      if (!element.equals("DataArray") || name == null) {
        return;
      }
      String label = name;
      name = null;
      boolean whole = text.length() < LARGEST_HELD && type != null;
      Filling filling =
          switch (form == null ? "ascii" : form) {
            case "ascii" -> sums -> VtkArrays.words(text.toString(), sums);
            case "binary" -> {
              VtkArrays form64 = new VtkArrays(order, wide, packed);
              yield sums -> form64.numbers(form64.decoded(text.toString()), type, sums);
            }
            default -> null;
          };
      try {
        add(label, whole ? filling : null, text.length());
      } catch (IOException impossible) {
        throw new java.io.UncheckedIOException(impossible);
      }
    }

    void add(String label, @Nullable Filling filling, long bytes) throws IOException {
      int count = taken.merge(label, 1, Integer::sum);
      String id = count == 1 ? label : label + " #" + count;
      if (filling == null) {
        readings.part(
            Part.of(id, null, label, "field", Map.of("bytes", new Measure(bytes, "B")), null));
        return;
      }
      FieldSums sums = id.equals(wanted) ? held : new FieldSums(false);
      try {
        filling.into(sums);
      } catch (VtkArrays.Broken broken) {
        readings.found(
            Finding.damaged("array", -1, "The array " + label + ": " + broken.getMessage() + "."));
      }
      odd += sums.notNumbers();
      readings.part(
          Part.of(id, null, label, "field", sums.measures(sums.count(), ""), sums.exact()));
    }

    Reading done() {
      if (odd > 0) {
        readings.found(
            Finding.doubtful(
                "not-a-number", -1, odd + " of its values are no numbers: the run diverged."));
      }
      return readings.done();
    }
  }
}
