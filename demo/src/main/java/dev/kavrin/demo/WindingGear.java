package dev.kavrin.demo;

import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.profile.ProgramProfile.Leftover;
import dev.kavrin.standin.GearModel;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;

/**
 * The winding gear, in a kind of file that only its program reads. Each save keeps the state before
 * it under a rising number; one of those was copied about, and an old laptop holds two more.
 */
final class WindingGear {
  static final String FILE = "winding-gear.tgm";

  private static final List<String> BLOCKS =
      List.of(
          "Drum",
          "Rope sheave",
          "Clutch",
          "Main shaft",
          "Post brake",
          "Depth indicator",
          "Motor bed");

  private final Path folder;
  private final InstantSource clock;
  private final GearModel model = new GearModel();
  private int saves;

  WindingGear(Path folder, InstantSource clock) throws IOException {
    this.folder = folder;
    this.clock = clock;
    Files.createDirectories(folder);
    for (int i = 0; i < BLOCKS.size(); i++) {
      model.put(BLOCKS.get(i), i);
    }
    write(folder.resolve(FILE), clock.instant());
  }

  static ProgramProfile program() {
    return new ProgramProfile(
        "Tarn Gearbook",
        "",
        null,
        Duration.ofMinutes(20),
        List.of(Leftover.of(CopyKind.KEPT_BY_SAVE, "kept", "{stem}_{n}.tgm")),
        null);
  }

  private void write(Path file, Instant at) throws IOException {
    Files.createDirectories(file.getParent());
    Files.write(file, model.toBytes());
    Files.setLastModifiedTime(file, FileTime.from(at));
  }

  /** Changes one block and saves; the state before stays under the next number. */
  void save() throws IOException {
    saves++;
    Path live = folder.resolve(FILE);
    Path kept = folder.resolve(String.format("kept/winding-gear_%03d.tgm", saves));
    Files.createDirectories(kept.getParent());
    Files.copy(live, kept);
    Files.setLastModifiedTime(kept, Files.getLastModifiedTime(live));
    model.put(BLOCKS.get(saves % BLOCKS.size()), 100 + saves);
    write(live, clock.instant());
  }

  /** Somebody carried the third kept state to another machine and back: its time is lost. */
  void carryAbout(Instant at) throws IOException {
    Files.setLastModifiedTime(folder.resolve("kept/winding-gear_003.tgm"), FileTime.from(at));
  }

  /** What an old laptop still held, under names that tell nothing. */
  void fromOldLaptop(Instant at) throws IOException {
    model.put("Rope guard", 900);
    write(folder.resolve("from old laptop/export 0412.dat"), at);
    model.remove("Rope guard").put("Pit ladder", 901);
    write(folder.resolve("from old laptop/export 0413.dat"), at.plus(Duration.ofDays(1)));
  }
}
