package dev.kavrin.core.profile;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.naming.Surroundings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Programs invented by chance are watched once; the sheet must hold for their next document. */
class ProposerTest {
  private static final Instant START = Instant.parse("2031-03-03T08:00:00Z");
  private static final int PROGRAMS = 30;

  @TempDir Path folder;
  private Instant now = START;

  @ParameterizedTest
  @ValueSource(longs = {1, 2000, 777_000})
  void sheetsOfInventedProgramsAreRight(long seeds) throws IOException {
    List<String> wrong = new ArrayList<>();
    for (int i = 0; i < PROGRAMS; i++) {
      Path home = Files.createDirectories(folder.resolve("home" + i));
      InventedProgram program = new InventedProgram(seeds + i, home, now);
      Path work = Files.createDirectories(home.resolve("incline/work"));
      Seen seen = watch(program, home, work, program.document(work, "carriage"));
      Proposal proposal = new Proposer(home, ZoneOffset.UTC).propose(seen, null);
      List<String> faults = faults(program, home, work, proposal);
      if (!faults.isEmpty()) {
        wrong.add("program " + i + " (" + program + "): " + faults);
      }
    }
    System.out.println(
        "Watched from seed " + seeds + ", not right: " + wrong.size() + " of " + PROGRAMS);
    wrong.forEach(System.out::println);
    assertThat(wrong).hasSizeLessThanOrEqualTo(2);
  }

  /** The time to open, save and close a file may be no longer than a long save takes. */
  @Test
  void aLockFileIsKnownThoughTheProgramWasOpenForMomentsOnly() throws IOException {
    Path work = Files.createDirectories(folder.resolve("station"));
    Path document = Files.write(work.resolve("summit-station.glb"), new byte[59_000]);
    Lookout lookout = new Lookout(new RealDisk(), List::of, List.of(work), () -> now);
    Path lock = Files.writeString(work.resolve(".summit-station.open"), "4711");
    Files.write(document, new byte[60_000]);
    lookout.look();
    now = now.plusMillis(1100);
    Files.write(work.resolve("summit-station~1.tmp"), new byte[61_000]);
    lookout.look();
    now = now.plusMillis(1100);
    Files.delete(lock);
    lookout.look();

    Proposal proposal = new Proposer(folder, ZoneOffset.UTC).propose(lookout.seen(), null);

    assertThat(proposal.sheet().signFor(document)).contains(lock);
  }

  /** Open, save twice, autosave twice, close; something else goes on beside it. */
  private Seen watch(InventedProgram program, Path home, Path work, Path document)
      throws IOException {
    Files.write(document, new byte[59_000]);
    Files.writeString(work.resolve("notes.txt"), "Summit station, platform edge");
    Lookout lookout =
        new Lookout(
            new RealDisk(), () -> program.processes(document), List.of(work, home), () -> now);
    session(program, document, lookout);
    return lookout.seen();
  }

  private void session(InventedProgram program, Path document, Lookout lookout) throws IOException {
    step(program, 3, lookout);
    program.begin(document);
    step(program, 5, lookout);
    program.save(document);
    step(program, 1, lookout);
    Files.writeString(document.resolveSibling("notes.txt"), "written beside " + now);
    step(program, program.every.toSeconds() - 1, lookout);
    program.autosave(document);
    step(program, program.every.toSeconds(), lookout);
    program.autosave(document);
    step(program, 7, lookout);
    program.save(document);
    step(program, 20, lookout);
    program.end(document);
    step(program, 1, lookout);
  }

  private void step(InventedProgram program, long seconds, Lookout lookout) {
    lookout.look();
    now = now.plusSeconds(seconds);
    program.at(now);
    lookout.look();
  }

  /** What the sheet gets wrong when the program works on another document. */
  private List<String> faults(InventedProgram program, Path home, Path work, Proposal proposal)
      throws IOException {
    List<String> faults = new ArrayList<>();
    Path other = program.document(work, "summit station");
    Files.write(other, new byte[59_000]);
    program.truth.clear();
    program.begin(other);
    ProgramProfile sheet = proposal.sheet();
    Optional<Path> sign = sheet.signFor(other);
    if (!Optional.ofNullable(program.sign(other)).equals(sign)) {
      faults.add("sign " + sign);
    }
    if (sheet.process().isEmpty()
        || !String.join(" ", program.commandLine(other)).contains(sheet.process())
        || program.processes(other).stream()
                .filter(p -> String.join(" ", p.arguments()).contains(sheet.process()))
                .count()
            != 1) {
      faults.add("process '" + sheet.process() + "'");
    }
    program.save(other);
    now = now.plusSeconds(60);
    program.at(now);
    program.autosave(other);
    for (Map.Entry<Path, CopyKind> e : program.truth.entrySet()) {
      if (!e.getValue().equals(kind(sheet, e.getKey(), other, home))) {
        faults.add(home.relativize(e.getKey()) + " as " + kind(sheet, e.getKey(), other, home));
      }
    }
    boolean autosaves = program.autosave != InventedProgram.Autosave.NONE;
    if (proposal.writesItself() != autosaves
        || autosaves
            && (sheet.writesEvery() == null
                || sheet.writesEvery().minus(program.every).abs().compareTo(Duration.ofSeconds(3))
                    > 0)) {
      faults.add("rhythm " + sheet.writesEvery());
    }
    if (!proposal
        .rule()
        .equals(List.of("*" + other.toString().substring(other.toString().lastIndexOf('.'))))) {
      faults.add("rule " + proposal.rule());
    }
    return faults;
  }

  private static CopyKind kind(ProgramProfile sheet, Path file, Path document, Path home) {
    return sheet.leftovers().stream()
        .filter(
            l ->
                l.folder()
                    .folders(new RealDisk(), document, new Surroundings(home, n -> null))
                    .contains(file.getParent()))
        .filter(l -> l.fits(file.getFileName().toString(), document.getFileName().toString()))
        .map(ProgramProfile.Leftover::kind)
        .findFirst()
        .orElse(null);
  }

  @Test
  void leftoversAloneTellToo() throws IOException {
    Path work = Files.createDirectories(folder.resolve("work"));
    for (String name :
        List.of(
            "carriage.glb",
            "carriage.bak",
            ".drafts/carriage~1.tmp",
            ".drafts/carriage~2.tmp",
            ".drafts/carriage.rescue",
            "pictures/oak.png")) {
      Path file = work.resolve(name);
      Files.createDirectories(file.getParent());
      Files.write(file, new byte[50_000]);
    }
    Files.write(work.resolve(".carriage.open"), new byte[5]);
    Lookout lookout = new Lookout(new RealDisk(), List::of, List.of(work), () -> now);
    Proposal proposal = new Proposer(folder, ZoneOffset.UTC).propose(lookout.seen(), null);
    assertThat(proposal.rule()).containsExactly("*.glb");
    assertThat(proposal.sheet().sessionSign()).hasToString(".{stem}.open");
    assertThat(proposal.sheet().leftovers())
        .containsExactlyInAnyOrder(
            ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp"),
            ProgramProfile.Leftover.of(CopyKind.RESCUE, ".drafts", "{stem}.rescue"),
            ProgramProfile.Leftover.of(CopyKind.KEPT_BY_SAVE, ".", "{stem}.bak"));
    assertThat(proposal.clues()).noneMatch(Proposal.Clue::sure);
  }
}
