package dev.kavrin.core.chunk;

import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 (FIPS 180-4) in lower-case hexadecimal, as {@code sha256sum} writes it. */
public final class Sha256 {
  private static final int BLOCK = 1 << 17;

  private Sha256() {}

  public static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException every) {
      throw new IllegalStateException("Every Java runtime has SHA-256", every);
    }
  }

  public static String of(byte[] bytes) {
    return HexFormat.of().formatHex(digest().digest(bytes));
  }

  public static String of(MessageDigest digest) {
    return HexFormat.of().formatHex(digest.digest());
  }

  /** Of all that is left of a stream, which is not closed. */
  public static String of(InputStream in) throws IOException {
    MessageDigest digest = digest();
    byte[] block = new byte[BLOCK];
    for (int n = in.read(block); n >= 0; n = in.read(block)) {
      digest.update(block, 0, n);
    }
    return of(digest);
  }
}
