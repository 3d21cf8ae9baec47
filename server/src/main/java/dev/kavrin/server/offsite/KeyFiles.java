package dev.kavrin.server.offsite;

import dev.kavrin.core.disk.Permissions;
import dev.kavrin.core.offsite.Passphrases;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.List;
import java.util.Properties;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Keys to stores, in files of the data folder that nobody but this user may read: lines {@code
 * access-key=…} and {@code secret-key=…}, or {@code passphrase=…}; beside them certificates.
 * Nothing of them is ever told.
 */
public final class KeyFiles implements Passphrases {
  private static final Pattern NAME = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._-]{0,99}");
  private static final long MOST = 100_000;
  private final Path folder;

  /** The two words that open a store. */
  record Key(String access, String secret) {
    @Override
    public String toString() {
      return "a key";
    }
  }

  public KeyFiles(Path data) {
    this.folder = data.resolve("keys");
  }

  Path folder() {
    return folder;
  }

  /** Names of the files there, certificates too. */
  List<String> names() throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .map(p -> p.getFileName().toString())
          .filter(n -> NAME.matcher(n).matches())
          .sorted()
          .toList();
    }
  }

  /**
   * @throws IOException there is no such key, or others may read it; says which
   */
  Key key(String name) throws IOException {
    Properties lines = lines(name);
    return new Key(line(name, lines, "access-key"), line(name, lines, "secret-key"));
  }

  /** What copies elsewhere are encrypted with: a line {@code passphrase=…}. */
  @Override
  public String of(String name) throws IOException {
    return line(name, lines(name), "passphrase");
  }

  private String line(String name, Properties lines, String word) throws IOException {
    String value = lines.getProperty(word, "").strip();
    if (value.isEmpty()) {
      throw new IOException(folder.resolve(name) + " lacks a line " + word + "=…");
    }
    return value;
  }

  private Properties lines(String name) throws IOException {
    Path file = file(name);
    if (Permissions.of(file).opensToOthers(file).orElse(false)) {
      throw new IOException(
          file
              + " can be read by others than its owner. Take that from them (chmod 600), then it"
              + " is used");
    }
    Properties lines = new Properties();
    try (Reader reader = Files.newBufferedReader(file)) {
      lines.load(reader);
    } catch (IllegalArgumentException malformed) {
      throw new IOException(file + " is not lines of word=…");
    }
    return lines;
  }

  /** A file there by its name, which leads nowhere else. */
  Path file(String name) throws IOException {
    if (!NAME.matcher(name).matches()) {
      throw new IOException("'" + name + "' is not the name of a file in " + folder);
    }
    Path file = folder.resolve(name);
    if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS) || Files.size(file) > MOST) {
      throw new IOException("There is no such file in " + folder + ": " + name);
    }
    return file;
  }
}
