package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.Sha256;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.Arrays;
import java.util.HexFormat;
import javax.crypto.AEADBadTagException;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * An encrypted object: eight letters, sixteen bytes of its own, then pieces of 64 KiB by
 * AES-256-GCM (NIST SP 800-38D), each sixteen bytes longer than what it holds. A piece's nonce is
 * its number and whether it is the last, so that none can be left out, moved or cut off (STREAM:
 * Hoang, Reyhanitabar, Rogaway, Vizár, 2015; from memory). The key comes from the store's, the
 * object's name and its own bytes: an object under another's name does not open. The same bytes
 * under the same name are sealed the same, so that sending can be gone on with.
 */
final class SealedFrame {
  private static final byte[] LETTERS = "KAVSEAL1".getBytes(StandardCharsets.US_ASCII);
  private static final int OWN = 16;
  private static final int HEAD = LETTERS.length + OWN;
  private static final int PIECE = 1 << 16;
  private static final int TAG = 16;
  private static final int SEALED = PIECE + TAG;
  private static final int NONCE = 12;

  private final Seal.Key key;
  private final String name;

  SealedFrame(Seal.Key key, String name) {
    this.key = key;
    this.name = name;
  }

  /** Bytes of an object that holds so many. */
  static long sealed(long length) {
    return HEAD + length + TAG * pieces(length);
  }

  /** Bytes that an object of so many holds; negative if it can be none. */
  static long held(long sealed) {
    long body = sealed - HEAD;
    return body - TAG * ((body + SEALED - 1) / SEALED);
  }

  private static long pieces(long length) {
    return Math.max(1, (length + PIECE - 1) / PIECE);
  }

  /** As it is sent; it can be read again from anywhere. */
  Body seal(Body plain) throws IOException {
    byte[] own = Arrays.copyOf(key.mac("own", name, plain.sha256()), OWN);
    Body.Opening opening = from -> new Sealing(plain, own, from);
    try (InputStream in = opening.from(0)) {
      return new Body(sealed(plain.length()), Sha256.of(in), opening);
    }
  }

  /** Opens an object's bytes, which are closed with the answer. */
  InputStream open(InputStream sealed) throws IOException {
    byte[] head = sealed.readNBytes(HEAD);
    if (head.length < HEAD || !Arrays.equals(LETTERS, 0, LETTERS.length, head, 0, LETTERS.length)) {
      throw new IOException(name + " is not encrypted as this store's objects are");
    }
    return new Opening(sealed, cipherKey(Arrays.copyOfRange(head, LETTERS.length, HEAD)));
  }

  private SecretKeySpec cipherKey(byte[] own) {
    return new SecretKeySpec(key.mac("object", name, HexFormat.of().formatHex(own)), "AES");
  }

  private static byte[] piece(
      int mode, SecretKeySpec key, long number, boolean last, byte[] in, int length)
      throws GeneralSecurityException {
    ByteBuffer nonce = ByteBuffer.allocate(NONCE).putInt(last ? 1 : 0).putLong(number);
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(mode, key, new GCMParameterSpec(TAG * 8, nonce.array()));
    return cipher.doFinal(in, 0, length);
  }

  /** Bytes that are made piece by piece. */
  private abstract static class Pieces extends InputStream {
    private byte[] now = {};
    private int at;

    /** The next piece; null after the last. */
    abstract byte[] next() throws IOException;

    final void begin(byte[] first, int skipped) {
      now = first;
      at = skipped;
    }

    private boolean fill() throws IOException {
      while (at >= now.length) {
        byte[] piece = next();
        if (piece == null) {
          return false;
        }
        begin(piece, 0);
      }
      return true;
    }

    @Override
    public int read() throws IOException {
      return fill() ? now[at++] & 0xff : -1;
    }

    @Override
    public int read(byte[] to, int from, int length) throws IOException {
      if (length == 0) {
        return 0;
      }
      if (!fill()) {
        return -1;
      }
      int n = Math.min(length, now.length - at);
      System.arraycopy(now, at, to, from, n);
      at += n;
      return n;
    }
  }

  private final class Sealing extends Pieces {
    private final InputStream plain;
    private final long count;
    private final SecretKeySpec cipherKey;
    private long number;

    Sealing(Body body, byte[] own, long from) throws IOException {
      this.count = pieces(body.length());
      this.cipherKey = cipherKey(own);
      this.number = Math.min(count, Math.max(0, from - HEAD) / SEALED);
      this.plain = body.from(Math.min(body.length(), number * PIECE));
      if (from < HEAD) {
        byte[] head = Arrays.copyOf(LETTERS, HEAD);
        System.arraycopy(own, 0, head, LETTERS.length, OWN);
        begin(head, (int) from);
      } else {
        byte[] first = next();
        if (first != null) {
          begin(first, (int) ((from - HEAD) % SEALED));
        }
      }
    }

    @Override
    byte[] next() throws IOException {
      if (number >= count) {
        return null;
      }
      byte[] block = plain.readNBytes(PIECE);
      boolean last = number == count - 1;
      try {
        return piece(Cipher.ENCRYPT_MODE, cipherKey, number++, last, block, block.length);
      } catch (GeneralSecurityException every) {
        throw new IllegalStateException("Every Java runtime has AES-GCM", every);
      }
    }

    @Override
    public void close() throws IOException {
      plain.close();
    }
  }

  private final class Opening extends Pieces {
    private final InputStream sealed;
    private final SecretKeySpec cipherKey;
    private byte[] ahead;
    private long number;

    Opening(InputStream sealed, SecretKeySpec cipherKey) throws IOException {
      this.sealed = sealed;
      this.cipherKey = cipherKey;
      this.ahead = sealed.readNBytes(SEALED);
      if (ahead.length < TAG) {
        throw new EOFException(name + " ends too early");
      }
    }

    @Override
    byte[] next() throws IOException {
      if (ahead.length == 0) {
        return null;
      }
      byte[] block = ahead;
      ahead = block.length < SEALED ? new byte[0] : sealed.readNBytes(SEALED);
      try {
        return piece(
            Cipher.DECRYPT_MODE, cipherKey, number++, ahead.length == 0, block, block.length);
      } catch (AEADBadTagException changed) {
        throw new IOException(
            name + " was changed, cut off or stands under another's name. Nothing of it is used");
      } catch (GeneralSecurityException every) {
        throw new IllegalStateException("Every Java runtime has AES-GCM", every);
      }
    }

    @Override
    public void close() throws IOException {
      sealed.close();
    }
  }
}
