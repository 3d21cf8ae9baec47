package dev.kavrin.server.platform;

import java.nio.file.Files;
import java.nio.file.Path;

/**
 * How Kavrin answers off loopback: always by TLS.
 *
 * @param name of this machine as the others call it
 * @param address it listens at
 * @param certificate with those that vouch for it, as PEM
 * @param key of the certificate, as PEM (PKCS #8)
 */
public record Outside(String name, String address, Path certificate, Path key) {
  /** Versions of TLS that are spoken (RFC 8446, RFC 5246); older ones are refused. */
  public static final String[] PROTOCOLS = {"TLSv1.3", "TLSv1.2"};

  public Outside {
    for (Path file : new Path[] {certificate, key}) {
      if (!Files.isReadable(file)) {
        throw new IllegalArgumentException(
            file
                + " cannot be read. Off loopback Kavrin answers by TLS only, so it needs a"
                + " certificate and its key; nothing was started.");
      }
    }
  }
}
