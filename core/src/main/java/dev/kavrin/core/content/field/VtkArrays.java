package dev.kavrin.core.content.field;

import java.io.ByteArrayOutputStream;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Base64;
import java.util.Locale;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;

/**
 * Numbers of arrays as VTK's XML forms write them. Source: "The VTK User's Guide", chapter 19, "XML
 * File Formats": a length before the bytes, or with packed data the number of blocks, their size,
 * the last one's size and the packed size of each.
 *
 * @param wide true if lengths have 64 bits
 * @param packed true if blocks are packed by zlib
 */
record VtkArrays(ByteOrder order, boolean wide, boolean packed) {
  /** Thrown where an array is not what it says. */
  static final class Broken extends Exception {
    Broken(String words) {
      super(words);
    }
  }

  /** Numbers written as words. */
  static void words(String text, FieldSums sums) throws Broken {
    for (String word : text.strip().split("\\s+")) {
      try {
        sums.number(
            word.isEmpty()
                ? Double.NaN
                : Double.parseDouble(word.replaceFirst("(?i)^([+-]?)nan$", "NaN")));
      } catch (NumberFormatException noNumber) {
        throw new Broken("\"" + word + "\" is no number");
      }
    }
  }

  /** Numbers as they stand in memory. */
  void numbers(ByteBuffer bytes, String type, FieldSums sums) throws Broken {
    int width = width(type);
    ByteBuffer in = bytes.slice().order(order);
    while (in.remaining() >= width) {
      sums.number(number(in, type));
    }
  }

  private static int width(String type) throws Broken {
    return switch (type.toLowerCase(Locale.ROOT)) {
      case "int8", "uint8" -> 1;
      case "int16", "uint16" -> 2;
      case "int32", "uint32", "float32" -> 4;
      case "int64", "uint64", "float64" -> 8;
      default -> throw new Broken("unknown type " + type);
    };
  }

  private static double number(ByteBuffer in, String type) {
    return switch (type.toLowerCase(Locale.ROOT)) {
      case "int8" -> in.get();
      case "uint8" -> Byte.toUnsignedInt(in.get());
      case "int16" -> in.getShort();
      case "uint16" -> Short.toUnsignedInt(in.getShort());
      case "int32" -> in.getInt();
      case "uint32" -> Integer.toUnsignedLong(in.getInt());
      case "float32" -> in.getFloat();
      case "float64" -> in.getDouble();
      default -> in.getLong();
    };
  }

  /** What base64 text holds behind its lengths. */
  ByteBuffer decoded(String text) throws Broken {
    try {
      String base64 = text.replaceAll("\\s", "");
      int first = characters(lengthBytes());
      ByteBuffer head = ByteBuffer.wrap(decode(base64.substring(0, first))).order(order);
      long length = length(head);
      if (!packed) {
        byte[] all = decode(base64);
        if (all.length < lengthBytes() + length) {
          throw new Broken("it is not there in full");
        }
        return ByteBuffer.wrap(all, lengthBytes(), (int) length);
      }
      int headBytes = (int) ((3 + length) * lengthBytes());
      int headText = characters(headBytes);
      ByteBuffer whole =
          ByteBuffer.wrap(decode(base64.substring(0, headText)), 0, headBytes).slice();
      return unpacked(whole, ByteBuffer.wrap(decode(base64.substring(headText))));
    } catch (IllegalArgumentException | IndexOutOfBoundsException | BufferUnderflowException cut) {
      throw new Broken("it is not there in full");
    }
  }

  private static byte[] decode(String base64) {
    return Base64.getDecoder().decode(base64);
  }

  private static int characters(int bytes) {
    return (bytes + 2) / 3 * 4;
  }

  private int lengthBytes() {
    return wide ? 8 : 4;
  }

  private long length(ByteBuffer in) {
    return wide ? in.getLong() : Integer.toUnsignedLong(in.getInt());
  }

  /** Blocks one behind the other, unpacked. */
  private ByteBuffer unpacked(ByteBuffer head, ByteBuffer blocks) throws Broken {
    ByteBuffer lengths = head.order(order);
    long count = length(lengths);
    int usual = (int) length(lengths);
    int last = (int) length(lengths);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (long i = 0; i < count; i++) {
      byte[] from = new byte[(int) length(lengths)];
      blocks.get(from);
      byte[] to = new byte[i == count - 1 && last > 0 ? last : usual];
      Inflater inflater = new Inflater();
      inflater.setInput(from);
      try {
        if (inflater.inflate(to) < to.length) {
          throw new Broken("a packed block is not there in full");
        }
      } catch (DataFormatException broken) {
        throw new Broken("a packed block cannot be unpacked");
      } finally {
        inflater.end();
      }
      out.write(to, 0, to.length);
    }
    return ByteBuffer.wrap(out.toByteArray());
  }
}
