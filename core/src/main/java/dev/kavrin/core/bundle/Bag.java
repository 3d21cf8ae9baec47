package dev.kavrin.core.bundle;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Map;

/**
 * What a bag looks like. Source: RFC 8493, The BagIt File Packaging Format (V1.0), sections 2 and
 * 2.1.3 (names in manifests).
 */
final class Bag {
  static final String DECLARATION = "bagit.txt";
  static final String INFO = "bag-info.txt";
  static final String FETCH = "fetch.txt";
  static final String DATA = "data/";
  static final String VERSION = "1.0";

  /** The kind of digest Kavrin writes. */
  static final String ALGORITHM = "sha256";

  /** Names of manifests, and what Java calls their digests; section 2.4. */
  static final Map<String, String> DIGESTS =
      Map.of(
          "md5", "MD5",
          "sha1", "SHA-1",
          "sha224", "SHA-224",
          "sha256", "SHA-256",
          "sha384", "SHA-384",
          "sha512", "SHA-512");

  private Bag() {}

  static MessageDigest digest(String name) {
    try {
      return MessageDigest.getInstance(DIGESTS.get(name));
    } catch (NoSuchAlgorithmException missing) {
      throw new IllegalStateException(missing);
    }
  }

  static String hex(MessageDigest digest) {
    return HexFormat.of().formatHex(digest.digest());
  }

  /** Line ends and the sign that marks them are written as their numbers. */
  static String written(String path) {
    return path.replace("%", "%25").replace("\r", "%0D").replace("\n", "%0A");
  }

  static String read(String path) {
    return path.replaceAll("(?i)%0D", "\r").replaceAll("(?i)%0A", "\n").replace("%25", "%");
  }
}
