package dev.kavrin.server.offsite;

import java.io.InputStream;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** Bytes, and the MD5 of those that were read; by it services say which bytes they have. */
final class Md5Input extends DigestInputStream {
  Md5Input(InputStream in) {
    super(in, md5());
  }

  private static MessageDigest md5() {
    try {
      return MessageDigest.getInstance("MD5");
    } catch (NoSuchAlgorithmException every) {
      throw new IllegalStateException("Every Java runtime has MD5", every);
    }
  }

  /** Of all read so far, lower-case hexadecimal; asked once, at the end. */
  String hex() {
    return HexFormat.of().formatHex(getMessageDigest().digest());
  }
}
