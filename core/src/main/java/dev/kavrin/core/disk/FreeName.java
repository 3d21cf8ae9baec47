package dev.kavrin.core.disk;

import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Moves a whole file to a name that is free, by the best way the folder has: a second name and the
 * first taken away; a rename that refuses to overwrite; an empty file that reserves the name,
 * looked at again and renamed over. Bytes that are not whole never stand under the name.
 */
final class FreeName {
  private static final long LONGEST_NOTE = 20_000;

  private final Disk disk;
  private final String node;
  private final Unfinished unfinished;

  FreeName(Disk disk, String node, Unfinished unfinished) {
    this.disk = disk;
    this.node = node;
    this.unfinished = unfinished;
  }

  /**
   * Both folders' names are on the device when this returns.
   *
   * @throws FileAlreadyExistsException the name is taken; nothing was touched
   */
  void move(Path named, Path free) throws IOException {
    Disk.Move lies = disk.asItLies(named, free);
    Path from = lies.from();
    Path to = lies.to();
    if (linked(from, to)) {
      return;
    }
    if (!disk.renameIfFree(from, to)) {
      reserveAndRename(from, to);
    }
    disk.flushFolder(to.getParent());
    if (!from.getParent().equals(to.getParent())) {
      disk.flushFolder(from.getParent());
    }
  }

  private boolean linked(Path from, Path to) throws IOException {
    try {
      disk.link(from, to);
    } catch (FileAlreadyExistsException | NoSuchFileException plain) {
      throw plain;
    } catch (FileSystemException | UnsupportedOperationException noHardLinks) {
      return false;
    }
    if (!from.getParent().equals(to.getParent())) {
      disk.flushFolder(to.getParent());
    }
    disk.unlink(from);
    disk.flushFolder(from.getParent());
    return true;
  }

  private void reserveAndRename(Path from, Path to) throws IOException {
    if (disk.facts(to).isPresent()) {
      throw new FileAlreadyExistsException(to.toString());
    }
    Path note = unfinished.begin(StageName.reservationIn(to.getParent(), node));
    try {
      reserve(from, to, note);
    } finally {
      unfinished.end(note);
    }
  }

  private void reserve(Path from, Path to, Path note) throws IOException {
    try (Sink sink = disk.create(note)) {
      byte[] bytes = (to.getFileName() + "\n" + from).getBytes(StandardCharsets.UTF_8);
      sink.write(bytes, 0, bytes.length);
      sink.flush();
    }
    disk.flushFolder(to.getParent());
    try {
      disk.create(to).close();
      FileFacts reserved = disk.facts(to).orElseThrow(() -> new NoSuchFileException(to.toString()));
      renameOver(from, to, reserved);
    } finally {
      disk.flushFolder(to.getParent());
      disk.unlink(note);
    }
  }

  private void renameOver(Path from, Path to, FileFacts reserved) throws IOException {
    FileFacts now = disk.facts(to).orElse(reserved);
    if (now.size() != 0 || !now.key().equals(reserved.key())) {
      throw new FileAlreadyExistsException(to.toString());
    }
    try {
      disk.rename(from, to);
    } catch (IOException failed) {
      giveBack(to, failed);
      throw failed;
    }
  }

  /** A reservation whose file could not be moved there is taken away again. */
  private void giveBack(Path reserved, IOException failed) {
    try {
      if (disk.facts(reserved).filter(f -> f.size() == 0).isPresent()) {
        disk.unlink(reserved);
      }
    } catch (IOException second) {
      failed.addSuppressed(second);
    }
  }

  /**
   * Settles a note a killed run left: while the file that was to be moved still stands where it
   * stood, an empty file under the reserved name is the reservation and goes; else the move was
   * done.
   */
  void settle(Path note) throws IOException {
    Optional<Path[]> moved = read(note);
    if (moved.isPresent()) {
      Path to = moved.get()[0];
      boolean waits = disk.facts(moved.get()[1]).filter(FileFacts::isFile).isPresent();
      if (waits && disk.facts(to).filter(f -> f.isFile() && f.size() == 0).isPresent()) {
        disk.unlink(to);
      }
    }
    disk.unlink(note);
  }

  /** The reserved name and the file meant for it; empty for a note that was not finished. */
  private Optional<Path[]> read(Path note) throws IOException {
    if (disk.facts(note).filter(f -> f.isFile() && f.size() < LONGEST_NOTE).isEmpty()) {
      return Optional.empty();
    }
    try (InputStream in = Channels.newInputStream(disk.read(note))) {
      String[] lines = new String(in.readAllBytes(), StandardCharsets.UTF_8).split("\n", 2);
      boolean plain = lines.length == 2 && !lines[0].isEmpty() && !lines[0].contains("/");
      return plain
          ? Optional.of(new Path[] {note.resolveSibling(lines[0]), Path.of(lines[1])})
          : Optional.empty();
    }
  }
}
