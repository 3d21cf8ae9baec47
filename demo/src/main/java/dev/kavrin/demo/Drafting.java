package dev.kavrin.demo;

import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.profile.ProgramProfile.Leftover;
import dev.kavrin.standin.Sheet;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** The drafter's folder: six sheets over one survey picture, worked on for weeks. */
final class Drafting {
  static final String PROCESS = "dev.kavrin.standin.DrafterProcess";
  static final List<String> SHEETS =
      List.of(
          "sheet-01-track-plan.dxf",
          "sheet-02-long-section.dxf",
          "sheet-03-lower-station.dxf",
          "sheet-04-summit-station.dxf",
          "sheet-05-passing-loop.dxf",
          "sheet-06-winding-house.dxf");

  private static final List<String> LAYERS = List.of("Track", "Walls", "Dimensions", "Levels");

  private final Path folder;
  private final InstantSource clock;
  private final Random random;
  private final Map<String, Sheet> sheets = new LinkedHashMap<>();

  Drafting(Path folder, InstantSource clock, Random random) throws IOException {
    this.folder = folder;
    this.clock = clock;
    this.random = random;
    Files.createDirectories(folder);
    Pictures.survey(folder.resolve("pictures/hillside-survey.png"), clock.instant());
    for (int n = 0; n < SHEETS.size(); n++) {
      sheets.put(SHEETS.get(n), begun(n));
      save(SHEETS.get(n));
    }
  }

  /** What the drafting program's leftovers are called. */
  static ProgramProfile program() {
    return new ProgramProfile(
        "Tarn Drafter",
        PROCESS,
        NamePattern.of(".{stem}.busy"),
        Duration.ofMinutes(15),
        List.of(Leftover.of(CopyKind.KEPT_BY_SAVE, ".", "{stem}.before")),
        null);
  }

  private static Sheet begun(int n) {
    Sheet sheet = new Sheet("pictures/hillside-survey.png");
    sheet.box("Title", 0, 0, 841, 594).box("Title", 641, 0, 200, 60);
    sheet.text("Title", 650, 40, 8, "Tarnwick Incline").text("Title", 650, 20, 5, SHEETS.get(n));
    for (int tie = 0; tie < 120 + 40 * n; tie++) {
      double x = 20 + tie * 2.4;
      sheet.line("Track", x, 100 + x * 0.3, x, 108 + x * 0.3);
    }
    return sheet.line("Track", 20, 106, 800, 340).line("Track", 20, 102, 800, 336);
  }

  Path path(String sheet) {
    return folder.resolve(sheet);
  }

  /** Adds a few lines and saves over the file; the earlier state stays beside it. */
  void workOn(String name) throws IOException {
    Sheet sheet = sheets.get(name);
    for (int n = 0; n < 3 + random.nextInt(5); n++) {
      draw(sheet, LAYERS.get(random.nextInt(LAYERS.size())));
    }
    Path before = folder.resolve(name.replace(".dxf", ".before"));
    Files.write(before, Files.readAllBytes(path(name)));
    Files.setLastModifiedTime(before, Files.getLastModifiedTime(path(name)));
    save(name);
  }

  /** A room, a measured length, a height or a sleeper, each where there is room on the sheet. */
  private void draw(Sheet sheet, String layer) {
    double x = 20 + 12 * random.nextInt(62);
    double y = 130 + 12 * random.nextInt(34);
    double wide = 12 * (1 + random.nextInt(5));
    double high = 12 * (1 + random.nextInt(3));
    switch (layer) {
      case "Walls" -> sheet.box(layer, x, y, wide, high);
      case "Dimensions" -> {
        sheet.line(layer, x, y - 4, x + wide, y - 4);
        sheet.line(layer, x, y - 6, x, y - 2).line(layer, x + wide, y - 6, x + wide, y - 2);
      }
      case "Levels" -> {
        sheet.line(layer, x, y, x + 10, y);
        sheet.line(layer, x, y, x + 3, y + 5).line(layer, x + 3, y + 5, x + 6, y);
      }
      default -> sheet.line(layer, x, 100 + x * 0.3, x, 108 + x * 0.3);
    }
  }

  private void save(String name) throws IOException {
    write(name, sheets.get(name).toDxf());
  }

  private void write(String name, byte[] bytes) throws IOException {
    Files.write(path(name), bytes);
    Files.setLastModifiedTime(path(name), FileTime.from(clock.instant()));
  }

  void open(String name) throws IOException {
    Files.writeString(sign(name), "busy\n");
  }

  void close(String name) throws IOException {
    Files.deleteIfExists(sign(name));
  }

  private Path sign(String name) {
    return folder.resolve("." + name.replace(".dxf", ".busy"));
  }

  /** Dies while saving: the sheet is cut short, its sign stays. */
  void dieWhileSaving(String name) throws IOException {
    byte[] bytes = sheets.get(name).toDxf();
    write(name, Arrays.copyOf(bytes, bytes.length * 2 / 3));
  }

  /** After a crash the drafter draws on from what was in the last copy. */
  void saveAgain(String name) throws IOException {
    save(name);
  }
}
