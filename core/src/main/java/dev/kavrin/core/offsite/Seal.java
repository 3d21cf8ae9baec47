package dev.kavrin.core.offsite;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.SecretKey;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * How a store is encrypted, as its mark tells anybody; without the passphrase it opens nothing.
 *
 * @param salt of the passphrase, 16 bytes, Base64
 * @param rounds of PBKDF2 (RFC 8018) with HMAC-SHA-256
 * @param check tells a wrong passphrase, Base64
 */
public record Seal(String salt, int rounds, String check) {
  /** OWASP's Password Storage Cheat Sheet for PBKDF2 with HMAC-SHA-256 (from memory). */
  private static final int ROUNDS = 600_000;

  private static final int SALT = 16;
  private static final int KEY_BITS = 256;

  /** For a store that is begun, with a salt of its own. */
  public static Seal of(String passphrase) {
    byte[] salt = new byte[SALT];
    new SecureRandom().nextBytes(salt);
    return of(passphrase, salt, ROUNDS);
  }

  static Seal of(String passphrase, byte[] salt, int rounds) {
    Key key = key(passphrase, salt, rounds);
    return new Seal(
        Base64.getEncoder().encodeToString(salt),
        rounds,
        Base64.getEncoder().encodeToString(key.mac("check")));
  }

  /**
   * @throws IOException it is not the passphrase the store was begun with
   */
  Key opened(String passphrase) throws IOException {
    Key key = key(passphrase, Base64.getDecoder().decode(salt), rounds);
    if (!MessageDigest.isEqual(key.mac("check"), Base64.getDecoder().decode(check))) {
      throw new IOException("It is encrypted with another passphrase");
    }
    return key;
  }

  private static Key key(String passphrase, byte[] salt, int rounds) {
    try {
      byte[] bytes =
          SecretKeyFactory.getInstance("PBKDF2WithHmacSHA256")
              .generateSecret(new PBEKeySpec(passphrase.toCharArray(), salt, rounds, KEY_BITS))
              .getEncoded();
      return new Key(new SecretKeySpec(bytes, "HmacSHA256"));
    } catch (GeneralSecurityException every) {
      throw new IllegalStateException("Every Java runtime has PBKDF2", every);
    }
  }

  /** What a passphrase and a salt give; all other keys are made of it. */
  static final class Key {
    private final SecretKey root;

    private Key(SecretKey root) {
      this.root = root;
    }

    /** HMAC-SHA-256 (RFC 2104) of texts, each ended by a zero byte. */
    byte[] mac(String... texts) {
      try {
        Mac mac = Mac.getInstance("HmacSHA256");
        mac.init(root);
        for (String text : texts) {
          mac.update(text.getBytes(StandardCharsets.UTF_8));
          mac.update((byte) 0);
        }
        return mac.doFinal();
      } catch (GeneralSecurityException every) {
        throw new IllegalStateException("Every Java runtime has HMAC-SHA-256", every);
      }
    }
  }
}
