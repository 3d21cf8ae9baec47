package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.List;

/**
 * The binary container of glTF 2.0 (ISO/IEC 12113, section 4.4): a 12-byte header, then chunks.
 *
 * @param json text of the first chunk, null if it is not there in full
 * @param binOffset first byte of the data chunk, −1 without one
 * @param binPresent bytes of the data chunk that are in the file
 * @param binDeclared bytes the data chunk should have, −1 without a container
 */
record GlbContainer(byte[] json, long binOffset, long binPresent, long binDeclared) {
  static final int MAGIC = 0x46546C67;
  private static final int JSON = 0x4E4F534A;
  private static final int BIN = 0x004E4942;
  private static final int LONGEST_JSON = 64_000_000;
  static final GlbContainer NOTHING = new GlbContainer(null, -1, 0, 0);

  /** A document without a container: its text is the whole file. */
  static GlbContainer text(SeekableByteChannel in, List<Finding> findings) throws IOException {
    if (in.size() > LONGEST_JSON) {
      findings.add(
          Finding.doubtful("structure-size", 0, "Its structure is too large to read here."));
      return NOTHING;
    }
    return new GlbContainer(Bytes.at(in, 0, (int) in.size()).array(), -1, 0, -1);
  }

  /** True if data may stand behind the structure in the same file. */
  boolean isBinary() {
    return binDeclared >= 0;
  }

  static GlbContainer read(SeekableByteChannel in, List<Finding> findings) throws IOException {
    long size = in.size();
    if (size == 0) {
      findings.add(Finding.damaged("empty", 0, "The file is empty: 0 bytes."));
      return NOTHING;
    }
    ByteBuffer header = Bytes.at(in, 0, (int) Math.min(12, size));
    if (size < 12) {
      boolean starts = size < 4 || header.getInt(0) == MAGIC;
      findings.add(
          starts
              ? Finding.damaged("cut-short", size, "Cut short inside its 12-byte header.")
              : notGlb(header));
      return NOTHING;
    }
    if (header.getInt(0) != MAGIC) {
      findings.add(notGlb(header));
      return NOTHING;
    }
    if (header.getInt(4) != 2) {
      findings.add(
          Finding.damaged("version", 4, "Container version " + header.getInt(4) + ", expected 2."));
      return NOTHING;
    }
    checkLength(Integer.toUnsignedLong(header.getInt(8)), size, findings);
    return chunks(in, size, findings);
  }

  private static Finding notGlb(ByteBuffer header) {
    boolean zeros = true;
    for (int i = 0; i < header.limit(); i++) {
      zeros &= header.get(i) == 0;
    }
    return Finding.damaged(
        zeros ? "zero-filled" : "not-glb",
        0,
        zeros
            ? "Starts with zeros: the file system kept the room but not the data."
            : "Does not start like a GLB file.");
  }

  private static void checkLength(long declared, long size, List<Finding> findings) {
    if (size < declared) {
      findings.add(
          Finding.damaged(
              "cut-short",
              size,
              "Cut short at "
                  + Words.percent((double) size / declared)
                  + ": "
                  + Sizes.words(size)
                  + " of "
                  + Sizes.words(declared)
                  + " are there."));
    } else if (size > declared) {
      findings.add(
          Finding.damaged(
              "wrong-length",
              8,
              "Says it is "
                  + declared
                  + " bytes long, but is "
                  + size
                  + ": bytes follow its end."));
    }
  }

  private static GlbContainer chunks(SeekableByteChannel in, long size, List<Finding> findings)
      throws IOException {
    long at = 12;
    byte[] json = null;
    long binOffset = -1;
    long binPresent = 0;
    long binDeclared = 0;
    for (int index = 0; at + 8 <= size; index++) {
      ByteBuffer head = Bytes.at(in, at, 8);
      long length = Integer.toUnsignedLong(head.getInt(0));
      int type = head.getInt(4);
      long present = Math.min(length, size - at - 8);
      if (length % 4 != 0) {
        findings.add(
            Finding.doubtful("chunk-padding", at, "Chunk " + index + " is not padded to 4 bytes."));
      }
      if (index == 0 && type != JSON) {
        findings.add(Finding.damaged("no-structure", at, "The first chunk is not the structure."));
        return NOTHING;
      }
      if (present < length) {
        if (findings.isEmpty()) {
          findings.add(
              Finding.damaged("chunk-length", at, "Chunk " + index + " runs past the file's end."));
        }
      }
      if (type == JSON && present == length) {
        if (length > LONGEST_JSON) {
          findings.add(
              Finding.doubtful("structure-size", at, "Its structure is too large to read here."));
          return NOTHING;
        }
        json = Bytes.at(in, at + 8, (int) length).array();
      } else if (type == BIN && binOffset < 0) {
        binOffset = at + 8;
        binPresent = present;
        binDeclared = length;
      }
      at += 8 + length;
    }
    if (json == null && findings.isEmpty()) {
      findings.add(Finding.damaged("no-structure", 12, "The structure chunk is missing."));
    }
    if (at < size && findings.isEmpty()) {
      findings.add(
          Finding.damaged("stray-bytes", at, (size - at) + " bytes follow the last chunk."));
    }
    return new GlbContainer(json, binOffset, binPresent, binDeclared);
  }

  /** Reads exactly {@code count} bytes, little-endian. */
}
