package dev.kavrin.core.pack;

import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hasher128;
import com.dynatrace.hash4j.hashing.Hashing;

/**
 * What a chunk holds, by length and XXH3-128. Equal chunks are very likely the same bytes; a
 * version counts as compacted only once all its bytes were compared.
 *
 * @param high upper half of the digest
 * @param low lower half of the digest
 */
public record Chunk(int length, long high, long low) {
  private static final Hasher128 HASHER = Hashing.xxh3_128();

  public static Chunk of(byte[] bytes, int offset, int length) {
    HashValue128 hash = HASHER.hashBytesTo128Bits(bytes, offset, length);
    return new Chunk(length, hash.getMostSignificantBits(), hash.getLeastSignificantBits());
  }
}
