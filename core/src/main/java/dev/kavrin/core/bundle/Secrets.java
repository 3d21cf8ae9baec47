package dev.kavrin.core.bundle;

import java.util.Locale;
import java.util.regex.Pattern;

/** Files that by their name hold what should not leave the machine; common practice, no source. */
public final class Secrets {
  private static final Pattern NAME =
      Pattern.compile(
          "\\.env(\\..*)?|\\.netrc|id_(rsa|dsa|ecdsa|ed25519)|.*\\.(pem|key|p12|pfx|jks|kdbx|ppk)"
              + "|.*(password|passwd|secret|credential|api[-_]?key|token).*");

  private Secrets() {}

  public static boolean isLikely(String fileName) {
    return NAME.matcher(fileName.toLowerCase(Locale.ROOT)).matches();
  }
}
