package dev.kavrin.standin;

import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.rehearse.Actor;
import dev.kavrin.core.rehearse.Way;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.trail.ProgramSheet;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.InstantSource;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Optional;

/** Writes where and under the names a program's sheet says, and dies when it is told to. */
public final class ActingProgram implements Actor {
  private static final int SLOTS = 3;
  private static final double WHOLE = 1;

  private final Path live;
  private final ProgramSheet sheet;
  private final InstantSource clock;
  private int slot;

  public ActingProgram(Path live, ProgramSheet sheet, InstantSource clock) {
    this.live = live;
    this.sheet = sheet;
    this.clock = clock;
  }

  @Override
  public void open() throws IOException {
    Optional<Path> sign = sheet.signFor(live);
    if (sign.isPresent()) {
      write(sign.get(), new byte[] {1});
    }
  }

  @Override
  public void save(Path state) throws IOException {
    Optional<ProgramSheet.Leftover> kept = leftover(CopyKind.KEPT_BY_SAVE);
    if (kept.isPresent() && Files.exists(live)) {
      FileTime was = Files.getLastModifiedTime(live);
      Path earlier = path(kept.get());
      write(earlier, live, WHOLE);
      Files.setLastModifiedTime(earlier, was);
    }
    write(live, state, WHOLE);
  }

  @Override
  public void autosave(Path state) throws IOException {
    slot = slot % SLOTS + 1;
    write(path(leftover(CopyKind.AUTOSAVE).orElseThrow()), state, WHOLE);
  }

  @Override
  public void die(Way way, Path state) throws IOException {
    switch (way) {
      case MID_SAVE -> write(live, state, 0.6);
      case DISK_FULL -> write(live, state, 0.2);
      case MID_AUTOSAVE -> {
        slot = slot % SLOTS + 1;
        Path target = path(leftover(CopyKind.AUTOSAVE).orElseThrow());
        write(target, state, 0.33);
      }
      case DAMAGED -> zeroSecondHalf();
      case DRIVE_GONE -> Files.move(root(), root().resolveSibling("unplugged"));
      case IDLE -> {}
    }
  }

  /** The folder that stands for the drive: named by whoever made the scratch. */
  private Path root() {
    Path folder = live.getParent();
    while (!folder.getFileName().toString().equals("work")) {
      folder = folder.getParent();
    }
    return folder;
  }

  private Optional<ProgramSheet.Leftover> leftover(CopyKind kind) {
    return sheet.leftovers().stream().filter(l -> l.kind() == kind).findFirst();
  }

  private Path path(ProgramSheet.Leftover leftover) {
    FileName name = FileName.of(live.getFileName().toString());
    NameFields fields =
        NameFields.of(name.stem(), name.ext())
            .withNumber(Math.max(1, slot), 1)
            .withTime(LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC));
    Path folder = leftover.folder().fixed(live, dev.kavrin.core.naming.Surroundings.here());
    return folder.resolve(leftover.pattern().format(fields));
  }

  private void zeroSecondHalf() throws IOException {
    try (FileChannel file = FileChannel.open(live, StandardOpenOption.WRITE)) {
      ByteBuffer zeros = ByteBuffer.allocate(1 << 16);
      for (long at = file.size() / 2, end = file.size(); at < end; ) {
        at += file.write(zeros.clear().limit((int) Math.min(1 << 16, end - at)), at);
      }
    }
    Files.setLastModifiedTime(live, FileTime.from(clock.instant()));
  }

  private void write(Path target, Path from, double share) throws IOException {
    Files.createDirectories(target.getParent());
    try (FileChannel in = FileChannel.open(from);
        FileChannel out =
            FileChannel.open(
                target,
                StandardOpenOption.WRITE,
                StandardOpenOption.CREATE,
                StandardOpenOption.TRUNCATE_EXISTING)) {
      long end = (long) (in.size() * share);
      for (long at = 0; at < end; ) {
        at += in.transferTo(at, end - at, out);
      }
    }
    Files.setLastModifiedTime(target, FileTime.from(clock.instant()));
  }

  private void write(Path target, byte[] bytes) throws IOException {
    Files.createDirectories(target.getParent());
    Files.write(target, bytes);
    Files.setLastModifiedTime(target, FileTime.from(clock.instant()));
  }
}
