package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;

/**
 * PLY, all three kinds: every element its head counts must be there, and nothing behind. Source: G.
 * Turk, "The PLY Polygon File Format", 1994.
 */
public final class PlyReader implements ShapeReader {
  private static final int LONGEST_LINE = 4096;
  private static final int MOST_IN_LIST = 1_000_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("ply");
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 4 && head.getInt(0) == 0x0A796C70;
  }

  /** Kinds of numbers, with their width in bytes. */
  private enum Scalar {
    CHAR(1),
    SHORT(2),
    INT(4),
    FLOAT(4),
    DOUBLE(8);

    private final int width;

    Scalar(int width) {
      this.width = width;
    }

    static Scalar of(String name) {
      return switch (name) {
        case "char", "uchar", "int8", "uint8" -> CHAR;
        case "short", "ushort", "int16", "uint16" -> SHORT;
        case "int", "uint", "int32", "uint32" -> INT;
        case "float", "float32" -> FLOAT;
        case "double", "float64" -> DOUBLE;
        default -> throw new IllegalArgumentException("unknown type " + name);
      };
    }
  }

  /** A property; {@code length} is null unless it is a list. */
  private record Property(String name, Scalar length, Scalar type) {}

  private record Element(String name, long count, List<Property> properties) {}

  private record Head(String kind, List<Element> elements) {
    long points() {
      return elements.stream()
          .filter(e -> e.name().equals("vertex"))
          .mapToLong(Element::count)
          .sum();
    }
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
    Readings readings = new Readings("ply");
    if (in.size() == 0) {
      return readings.empty();
    }
    InputStream bytes = new BufferedInputStream(Bytes.from(in, 0), 1 << 16);
    Head head;
    try {
      head = head(bytes);
    } catch (EOFException cut) {
      return readings.cutShort(in.size(), "It ends inside its head.");
    } catch (IllegalArgumentException broken) {
      return readings.broken(0, "Its head cannot be read: " + broken.getMessage() + ".");
    }
    Values values =
        switch (head.kind()) {
          case "ascii" -> new Words(bytes);
          case "binary_little_endian" -> new Binary(bytes, ByteOrder.LITTLE_ENDIAN);
          case "binary_big_endian" -> new Binary(bytes, ByteOrder.BIG_ENDIAN);
          default -> null;
        };
    if (values == null) {
      return readings.broken(0, "Its head tells of an unknown form, " + head.kind() + ".");
    }
    try {
      for (Element element : head.elements()) {
        for (long i = 0; i < element.count(); i++) {
          item(element, values, head.points(), tally);
        }
      }
      if (values.hasMore()) {
        readings.found(
            Finding.doubtful("more-behind", -1, "Something more stands behind its end."));
      }
    } catch (EOFException cut) {
      return readings.cutShort(in.size(), "It ends before all that its head counts.");
    } catch (IllegalArgumentException broken) {
      return readings.broken(-1, "It cannot be read: " + broken.getMessage() + ".");
    }
    tally.decimals(values.decimals());
    return tally.into(readings);
  }

  private static void item(Element element, Values values, long points, MeshBuilder tally)
      throws IOException {
    double[] at = new double[3];
    int found = 0;
    for (Property property : element.properties()) {
      if (property.length() == null) {
        double value = values.next(property.type());
        int axis = "xyz".indexOf(property.name());
        if (axis >= 0 && property.name().length() == 1) {
          at[axis] = value;
          found++;
        }
      } else {
        double count = values.next(property.length());
        if (count < 0 || count > MOST_IN_LIST) {
          throw new IllegalArgumentException("a list of " + (long) count + " entries");
        }
        boolean face = element.name().equals("face") && property.name().startsWith("vertex_ind");
        int[] corners = new int[face ? (int) count : 0];
        for (int i = 0; i < count; i++) {
          double value = values.next(property.type());
          if (face) {
            corners[i] = corner(value, points);
          }
        }
        if (corners.length >= 3) {
          tally.face(corners, corners.length);
        }
      }
    }
    if (element.name().equals("vertex") && found == 3) {
      tally.point(at[0], at[1], at[2]);
      tally.hash(
          ByteBuffer.allocate(24).putDouble(at[0]).putDouble(at[1]).putDouble(at[2]).array(), 24);
    }
  }

  private static int corner(double value, long points) {
    if (value < 0 || value >= points) {
      throw new IllegalArgumentException("a face names point " + (long) value + " of " + points);
    }
    return (int) value;
  }

  private static Head head(InputStream in) throws IOException {
    if (!line(in).equals("ply")) {
      throw new IllegalArgumentException("it does not begin with ply");
    }
    String kind = "";
    List<Element> elements = new ArrayList<>();
    for (String text = line(in); !text.equals("end_header"); text = line(in)) {
      String[] words = text.split("\\s+");
      switch (words[0]) {
        case "format" -> kind = words.length > 1 ? words[1] : "";
        case "element" -> elements.add(element(words));
        case "property" -> {
          if (elements.isEmpty() || words.length < 3) {
            throw new IllegalArgumentException("a property without its element");
          }
          boolean list = words[1].equals("list");
          elements
              .get(elements.size() - 1)
              .properties()
              .add(
                  list && words.length > 4
                      ? new Property(words[4], Scalar.of(words[2]), Scalar.of(words[3]))
                      : new Property(words[2], null, Scalar.of(words[1])));
        }
        default -> {}
      }
    }
    return new Head(kind, elements);
  }

  private static Element element(String[] words) {
    long count = words.length > 2 ? Long.parseLong(words[2]) : -1;
    if (count < 0) {
      throw new IllegalArgumentException("an element without a count");
    }
    return new Element(words[1], count, new ArrayList<>());
  }

  private static String line(InputStream in) throws IOException {
    StringBuilder text = new StringBuilder();
    for (int c = in.read(); c != '\n'; c = in.read()) {
      if (c < 0) {
        throw new EOFException();
      }
      text.append((char) c);
      if (text.length() > LONGEST_LINE) {
        throw new IllegalArgumentException("a line without an end");
      }
    }
    return text.toString().strip();
  }

  /** Numbers one after the other. */
  private interface Values {
    /**
     * @throws EOFException there is no further one
     * @throws IllegalArgumentException it is no number
     */
    double next(Scalar type) throws IOException;

    boolean hasMore() throws IOException;

    /** Digits behind the point of the longest number so far, −1 for binary ones. */
    int decimals();
  }

  private static final class Words implements Values {
    private final InputStream in;
    private int decimals;

    Words(InputStream in) {
      this.in = in;
    }

    @Override
    public int decimals() {
      return decimals;
    }

    @Override
    public double next(Scalar type) throws IOException {
      String word = word();
      if (word.isEmpty()) {
        throw new EOFException();
      }
      double value = Double.parseDouble(word);
      decimals = Math.max(decimals, MeshBuilder.decimals(word));
      return value;
    }

    private String word() throws IOException {
      StringBuilder word = new StringBuilder();
      for (int c = in.read(); c >= 0; c = in.read()) {
        if (c > ' ') {
          word.append((char) c);
          if (word.length() > LONGEST_LINE) {
            throw new IllegalArgumentException("a word without an end");
          }
        } else if (!word.isEmpty()) {
          break;
        }
      }
      return word.toString();
    }

    @Override
    public boolean hasMore() throws IOException {
      return !word().isEmpty();
    }
  }

  private static final class Binary implements Values {
    private final DataInputStream in;
    private final ByteBuffer number;

    Binary(InputStream in, ByteOrder order) {
      this.in = new DataInputStream(in);
      this.number = ByteBuffer.allocate(8).order(order);
    }

    @Override
    public int decimals() {
      return -1;
    }

    @Override
    public double next(Scalar type) throws IOException {
      in.readFully(number.array(), 0, type.width);
      return switch (type) {
        case CHAR -> Byte.toUnsignedInt(number.get(0));
        case SHORT -> number.getShort(0);
        case INT -> number.getInt(0);
        case FLOAT -> number.getFloat(0);
        case DOUBLE -> number.getDouble(0);
      };
    }

    @Override
    public boolean hasMore() throws IOException {
      return in.read() >= 0;
    }
  }
}
