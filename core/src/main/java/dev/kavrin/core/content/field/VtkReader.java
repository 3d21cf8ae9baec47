package dev.kavrin.core.content.field;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Fields;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Slice;
import jakarta.annotation.Nullable;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.Locale;
import java.util.Optional;

/**
 * VTK in its legacy form, text or binary: every block of numbers its keywords count must be there.
 * Source: "The VTK User's Guide", chapter 19, "Simple Legacy Formats".
 */
public final class VtkReader implements FieldReader {
  private static final int LONGEST_LINE = 1 << 14;

  @Override
  public boolean reads(String ext) {
    return ext.equals("vtk");
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return walked(in, null);
  }

  @Override
  public Fields fields(SeekableByteChannel in) {
    return part -> {
      FieldSums held = new FieldSums(true);
      walked(in, new Wanted(part, held));
      return held.held();
    };
  }

  @Override
  public Optional<Slice> slice(SeekableByteChannel in) {
    return Optional.empty();
  }

  /** A field whose numbers are to be held. */
  private record Wanted(String field, FieldSums sums) {}

  private static Reading walked(SeekableByteChannel in, @Nullable Wanted wanted)
      throws IOException {
    Readings readings = new Readings("vtk");
    if (in.size() == 0) {
      return readings.empty();
    }
    try {
      return new Walk(new BufferedInputStream(Bytes.from(in, 0), 1 << 16), readings, wanted)
          .through();
    } catch (EOFException cut) {
      return readings.cutShort(in.size(), "It ends before all that it counts.");
    } catch (IllegalArgumentException broken) {
      return readings.broken(-1, "It cannot be read: " + broken.getMessage() + ".");
    }
  }

  /** One pass from keyword to keyword. */
  private static final class Walk {
    private final DataInputStream in;
    private final Readings readings;
    private final Wanted wanted;
    private boolean binary;
    private long tuples;
    private long odd;
    private boolean ended;

    Walk(InputStream in, Readings readings, @Nullable Wanted wanted) {
      this.in = new DataInputStream(in);
      this.readings = readings;
      this.wanted = wanted;
    }

    Reading through() throws IOException {
      if (!line().startsWith("# vtk DataFile Version")) {
        throw new IllegalArgumentException("it does not begin like a VTK file");
      }
      line();
      binary = line().strip().equalsIgnoreCase("BINARY");
      boolean structured = false;
      for (String text = keyword(); text != null; text = keyword()) {
        String[] words = text.strip().split("\\s+");
        structured |= block(words, readings);
      }
      if (!structured) {
        throw new EOFException();
      }
      if (odd > 0) {
        readings.found(
            Finding.doubtful(
                "not-a-number", -1, odd + " of its values are no numbers: the run diverged."));
      }
      return readings.done();
    }

    /** True for the block that says what it is about. */
    private boolean block(String[] words, Readings readings) throws IOException {
      switch (words[0].toUpperCase(Locale.ROOT)) {
        case "DATASET" -> {
          return true;
        }
        case "POINTS" -> numbers(words, 3 * number(words, 1), type(words, 2), new FieldSums(false));
        case "X_COORDINATES", "Y_COORDINATES", "Z_COORDINATES" ->
            numbers(words, number(words, 1), type(words, 2), new FieldSums(false));
        case "CELLS", "POLYGONS", "LINES", "VERTICES", "TRIANGLE_STRIPS" ->
            numbers(words, number(words, 2), "int", new FieldSums(false));
        case "CELL_TYPES" -> numbers(words, number(words, 1), "int", new FieldSums(false));
        case "POINT_DATA", "CELL_DATA" -> tuples = number(words, 1);
        case "SCALARS" -> {
          long each = words.length > 3 ? number(words, 3) : 1;
          line();
          field(words, each);
        }
        case "VECTORS", "NORMALS" -> field(words, 3);
        case "TENSORS" -> field(words, 9);
        case "FIELD" -> {
          for (long i = number(words, 2); i > 0; i--) {
            String[] array = keyword() == null ? new String[0] : last.strip().split("\\s+");
            if (array.length < 4) {
              throw new EOFException();
            }
            field(array[0], array, number(array, 1) * number(array, 2), array[3]);
          }
        }
        case "DIMENSIONS",
            "ORIGIN",
            "SPACING",
            "ASPECT_RATIO",
            "METADATA",
            "INFORMATION",
            "LOOKUP_TABLE",
            "NAME",
            "DATA" -> {
          return false;
        }
        default -> throw new IllegalArgumentException("unknown keyword " + words[0]);
      }
      return false;
    }

    private void field(String[] words, long each) throws IOException {
      field(words.length > 1 ? words[1] : words[0], words, tuples * each, type(words, 2));
    }

    private void field(String name, String[] words, long count, String type) throws IOException {
      boolean asked = wanted != null && wanted.field().equals(name);
      FieldSums sums = asked ? wanted.sums() : new FieldSums(false);
      numbers(words, count, type, sums);
      if (sums.runsAway()) {
        readings.found(
            Finding.doubtful(
                "runaway",
                -1,
                "The field " + name + " reaches " + sums.largest() + ": the run diverged."));
      }
      readings.part(Part.of(name, null, name, "field", sums.measures(count, ""), sums.exact()));
    }

    private static long number(String[] words, int at) {
      if (words.length <= at) {
        throw new IllegalArgumentException(words[0] + " without its count");
      }
      return Long.parseLong(words[at]);
    }

    private static String type(String[] words, int at) {
      return words.length > at ? words[at] : "float";
    }

    private void numbers(String[] what, long count, String type, FieldSums sums)
        throws IOException {
      if (count < 0) {
        throw new IllegalArgumentException(what[0] + " of " + count);
      }
      for (long i = 0; i < count; i++) {
        sums.number(
            binary
                ? value(type)
                : Double.parseDouble(word().replaceFirst("(?i)^([+-]?)nan$", "NaN")));
      }
      odd += sums.notNumbers();
    }

    /** Binary numbers have their highest byte first. */
    private double value(String type) throws IOException {
      return switch (type.toLowerCase(Locale.ROOT)) {
        case "char" -> in.readByte();
        case "unsigned_char" -> in.readUnsignedByte();
        case "short" -> in.readShort();
        case "unsigned_short" -> in.readUnsignedShort();
        case "int" -> in.readInt();
        case "unsigned_int" -> Integer.toUnsignedLong(in.readInt());
        case "float" -> in.readFloat();
        case "double" -> in.readDouble();
        case "long", "unsigned_long", "vtkidtype" -> in.readLong();
        default -> throw new IllegalArgumentException("unknown type " + type);
      };
    }

    private String word() throws IOException {
      StringBuilder word = new StringBuilder();
      for (int c = in.read(); ; c = in.read()) {
        if (c > ' ') {
          word.append((char) c);
          if (word.length() > LONGEST_LINE) {
            throw new IllegalArgumentException("a word without an end");
          }
        } else if (!word.isEmpty()) {
          return word.toString();
        } else if (c < 0) {
          throw new EOFException();
        }
      }
    }

    private String last = "";

    /** The next line with anything on it, null at the end. */
    private String keyword() throws IOException {
      while (!ended) {
        String text = line();
        if (!text.isBlank()) {
          last = text;
          return text;
        }
      }
      return null;
    }

    private String line() throws IOException {
      StringBuilder text = new StringBuilder();
      for (int c = in.read(); c != '\n'; c = in.read()) {
        if (c < 0) {
          ended = true;
          break;
        }
        text.append((char) c);
        if (text.length() > LONGEST_LINE) {
          throw new IllegalArgumentException("a line without an end");
        }
      }
      return text.toString();
    }
  }
}
