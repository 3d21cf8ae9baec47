package dev.kavrin.standin;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Random;

/**
 * A machine as a program of its own kind keeps it: blocks of packed numbers behind a mark, which
 * nobody else can read.
 */
public final class GearModel {
  private static final int MARK = 0x54474D31;
  private static final int NUMBERS = 900;

  private final Map<String, float[]> blocks = new LinkedHashMap<>();

  /** Puts a block in, or another in its place; the seed decides its numbers. */
  public GearModel put(String name, long seed) {
    Random random = new Random(seed);
    float[] numbers = new float[NUMBERS];
    for (int i = 0; i < numbers.length; i++) {
      numbers[i] = (float) random.nextGaussian() * 40;
    }
    blocks.put(name, numbers);
    return this;
  }

  public GearModel remove(String name) {
    blocks.remove(name);
    return this;
  }

  public byte[] toBytes() {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (DataOutputStream out = new DataOutputStream(bytes)) {
      out.writeInt(MARK);
      out.writeInt(blocks.size());
      for (Map.Entry<String, float[]> block : blocks.entrySet()) {
        out.writeUTF(block.getKey());
        out.writeInt(block.getValue().length);
        for (float number : block.getValue()) {
          out.writeFloat(number);
        }
      }
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return bytes.toByteArray();
  }
}
