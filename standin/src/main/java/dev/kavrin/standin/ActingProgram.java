package dev.kavrin.standin;

import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.recoverytest.Actor;
import dev.kavrin.core.recoverytest.FailureMode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.InstantSource;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Optional;

/** Writes where and under the names a program's sheet says, and dies when it is told to. */
public final class ActingProgram implements Actor {
  private static final int SLOTS = 3;

  private final Path live;
  private final ProgramProfile sheet;
  private final InstantSource clock;
  private final ActingWrites writes;
  private int slot;

  public ActingProgram(Path live, ProgramProfile sheet, InstantSource clock) {
    this.live = live;
    this.sheet = sheet;
    this.clock = clock;
    this.writes = new ActingWrites(clock);
  }

  @Override
  public void open() throws IOException {
    Optional<Path> sign = sheet.signFor(live);
    if (sign.isPresent()) {
      writes.sign(sign.get());
    }
  }

  @Override
  public void save(Path state) throws IOException {
    Optional<ProgramProfile.Leftover> kept = leftover(CopyKind.KEPT_BY_SAVE);
    if (kept.isPresent() && Files.exists(live)) {
      FileTime was = Files.getLastModifiedTime(live);
      Path earlier = path(kept.get());
      writes.part(earlier, live, ActingWrites.WHOLE);
      Files.setLastModifiedTime(earlier, was);
    }
    writes.part(live, state, ActingWrites.WHOLE);
  }

  @Override
  public void autosave(Path state) throws IOException {
    slot = slot % SLOTS + 1;
    writes.part(path(leftover(CopyKind.AUTOSAVE).orElseThrow()), state, ActingWrites.WHOLE);
  }

  @Override
  public void die(FailureMode way, Path state) throws IOException {
    switch (way) {
      case MID_SAVE -> writes.part(live, state, 0.6);
      case DISK_FULL -> writes.part(live, state, 0.2);
      case MID_AUTOSAVE -> {
        slot = slot % SLOTS + 1;
        Path target = path(leftover(CopyKind.AUTOSAVE).orElseThrow());
        writes.part(target, state, 0.33);
      }
      case DAMAGED -> writes.zeroSecondHalf(live);
      case DRIVE_GONE -> ActingWrites.unplug(live);
      case IDLE -> {}
    }
  }

  private Optional<ProgramProfile.Leftover> leftover(CopyKind kind) {
    return sheet.leftovers().stream().filter(l -> l.kind() == kind).findFirst();
  }

  private Path path(ProgramProfile.Leftover leftover) {
    FileName name = FileName.of(live.getFileName().toString());
    NameFields fields =
        NameFields.of(name.stem(), name.ext())
            .withNumber(Math.max(1, slot), 1)
            .withTime(LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC));
    Path folder = leftover.folder().fixed(live, dev.kavrin.core.naming.Surroundings.here());
    return folder.resolve(leftover.pattern().format(fields));
  }
}
