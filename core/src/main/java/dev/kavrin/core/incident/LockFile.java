package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.host.Instance;
import dev.kavrin.core.profile.LockText;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The file that stands beside a document while it is open. What it says is read as text and
 * believed only where it agrees with what the host tells; no path in it is followed.
 */
record LockFile(Path path, FileFacts facts, String text, Optional<LockText.Says> says) {
  private static final int READ_AT_MOST = 4096;
  private static final Duration BEFORE_ITS_PROGRAM = Duration.ofSeconds(2);
  private static final Pattern NUMBER = Pattern.compile("(?<![\\w.-])\\d{1,10}(?![\\w.-])");

  /** A machine's name behind a word for it, or behind somebody's name and an at sign. */
  private static final Pattern MACHINE =
      Pattern.compile(
          "(?iu)(?:\\b(?:host|hostname|machine|computer|node|station)\"?\\s*[=:]\\s*\"?"
              + "|(?<=[\\w.-])@)([\\p{L}\\d][\\p{L}\\d.-]*)");

  /**
   * @param written what its program writes into it; null if unknown, so that numbers and names are
   *     taken for what they look like
   */
  static Optional<LockFile> at(Disk disk, Path path, @Nullable LockText written, boolean mayRead)
      throws IOException {
    Optional<FileFacts> facts = disk.facts(path).filter(FileFacts::isFile);
    if (facts.isEmpty()) {
      return Optional.empty();
    }
    String text = mayRead ? read(disk, path, facts.get()) : "";
    return Optional.of(
        new LockFile(
            path, facts.get(), text, written == null ? Optional.empty() : written.read(text)));
  }

  private static String read(Disk disk, Path path, FileFacts facts) {
    if (facts.size() == 0 || facts.size() > READ_AT_MOST) {
      return "";
    }
    try (InputStream in = Channels.newInputStream(disk.read(path))) {
      return new String(in.readNBytes(READ_AT_MOST), StandardCharsets.UTF_8);
    } catch (IOException unreadable) {
      return "";
    }
  }

  /** True if it names that process, which was there when it was written. */
  boolean names(Instance instance) {
    return instance.pid() > 0 && isFrom(instance) && tellsPid(instance.pid());
  }

  private boolean tellsPid(long pid) {
    Optional<Long> told = says.map(LockText.Says::pid);
    return told.isPresent()
        ? told.get() == pid
        : NUMBER.matcher(text).results().anyMatch(n -> n.group().equals("" + pid));
  }

  /** True if that instance was there when it was written. */
  boolean isFrom(Instance instance) {
    return !instance.started().isAfter(facts.modified().plus(BEFORE_ITS_PROGRAM));
  }

  /** Another machine that it names; empty if it names none, or this one. */
  Optional<String> otherMachine(String own) {
    if (own.isEmpty()) {
      return Optional.empty();
    }
    Optional<String> told = says.map(LockText.Says::host);
    Stream<String> names =
        told.isPresent() ? told.stream() : MACHINE.matcher(text).results().map(LockFile::trimmed);
    return names
        .filter(name -> !isSame(name, own) && !name.equalsIgnoreCase("localhost"))
        .findFirst();
  }

  /** Whose it is, if it says so. */
  Optional<String> user() {
    return says.map(LockText.Says::user);
  }

  private static String trimmed(MatchResult found) {
    return found.group(1).replaceFirst("[.-]+$", "");
  }

  /** With or without the domain behind it. */
  private static boolean isSame(String name, String own) {
    return first(name).equalsIgnoreCase(first(own));
  }

  private static String first(String name) {
    return name.replaceFirst("\\..*$", "");
  }
}
