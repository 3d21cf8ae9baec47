package dev.kavrin.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Bytes nobody can read, changed in known ways; truth by comparing them one by one. */
class ByteChangeTest {
  @TempDir Path folder;

  private static byte[] noise(int length, long seed) {
    byte[] bytes = new byte[length];
    new Random(seed).nextBytes(bytes);
    return bytes;
  }

  private static ByteChange between(byte[] a, byte[] b) throws IOException {
    return ByteChange.of(new SeekableInMemoryByteChannel(a), new SeekableInMemoryByteChannel(b));
  }

  private static boolean told(ByteChange change, long at) {
    return change.differing().stream().anyMatch(s -> s.from() <= at && at < s.to());
  }

  @RepeatedTest(30)
  void everyByteThatChangedInPlaceIsTold(RepetitionInfo turn) throws IOException {
    Random random = new Random(turn.getCurrentRepetition());
    byte[] a = noise(50_000 + random.nextInt(900_000), turn.getCurrentRepetition());
    byte[] b = a.clone();
    for (int n = random.nextInt(40); n > 0; n--) {
      int from = random.nextInt(b.length - 300);
      Arrays.fill(b, from, from + 1 + random.nextInt(200), (byte) random.nextInt());
    }
    ByteChange change = between(a, b);
    long differing = 0;
    for (int i = 0; i < a.length; i++) {
      if (a[i] != b[i]) {
        assertThat(told(change, i)).as("byte %d", i).isTrue();
        differing++;
      }
    }
    assertThat(change.shared()).isBetween(a.length - differing * 70 - 1, a.length - differing);
    assertThat(change.sentence().equals("No byte differs.")).isEqualTo(differing == 0);
  }

  @RepeatedTest(30)
  void whatWasPutInOrTakenOutShiftsNothingElse(RepetitionInfo turn) throws IOException {
    Random random = new Random(100 + turn.getCurrentRepetition());
    byte[] a = noise(400_000 + random.nextInt(400_000), turn.getCurrentRepetition());
    int at = random.nextInt(a.length);
    byte[] more = noise(1 + random.nextInt(3000), 7);
    byte[] b = Arrays.copyOf(a, a.length + more.length);
    System.arraycopy(a, at, b, at + more.length, a.length - at);
    System.arraycopy(more, 0, b, at, more.length);
    ByteChange grown = between(a, b);
    assertThat(grown.sizeB() - grown.shared()).isBetween((long) more.length - 2, more.length + 2L);
    ByteChange shrunk = between(b, a);
    assertThat(shrunk.sizeB() - shrunk.shared()).isLessThan(8);
    assertThat(between(a, Arrays.copyOf(a, at)).differing()).isEmpty();
  }

  /** Larger files are read in pieces by several threads; the answer is that of one. */
  @Test
  void piecesReadAtOnceComeToTheSame() throws IOException {
    byte[] a = noise(9_000_000, 3);
    byte[] b = a.clone();
    for (int at : new int[] {0, 4_499_999, 4_500_000, 8_999_999}) {
      b[at] ^= 1;
    }
    Path fileA = Files.write(folder.resolve("a"), a);
    Path fileB = Files.write(folder.resolve("b"), b);
    try (var inA = Files.newByteChannel(fileA);
        var inB = Files.newByteChannel(fileB)) {
      assertThat(ByteChange.of(inA, inB)).isEqualTo(between(a, b));
    }
    assertThat(between(a, b).differing()).hasSize(3);
  }
}
