package dev.kavrin.core.host;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Real processes, run from files that were put there by hand; held against GNU stat(1). */
class InstalledTest {
  private static final FileTime MADE = FileTime.from(Instant.parse("2031-03-04T12:00:00Z"));

  @TempDir private Path folder;
  private final ProcessTable table = ProcessTable.ofThisMachine();

  private static Instant changed(Path file) throws IOException {
    Process stat = new ProcessBuilder("stat", "-c", "%.9Z", file.toString()).start();
    String[] told =
        new String(stat.getInputStream().readAllBytes(), StandardCharsets.US_ASCII)
            .strip()
            .split("[.]");
    return Instant.ofEpochSecond(Long.parseLong(told[0]), Long.parseLong(told[1]));
  }

  private Instance instance(Process process, List<String> command) {
    return new Instance(
        process.pid(),
        "",
        Instant.EPOCH,
        command,
        null,
        table.program(process.pid()),
        Set.of(),
        null);
  }

  /** As an installer lays it down: with the time it was made, whenever that was. */
  private Path installed(String name, String from) throws IOException {
    Path program = folder.resolve(name);
    Files.copy(Path.of(from), program, StandardCopyOption.REPLACE_EXISTING);
    program.toFile().setExecutable(true);
    Files.setLastModifiedTime(program, MADE);
    return program;
  }

  @Test
  void itIsTheTimeOfTheInstallingNotOfTheMaking() throws Exception {
    Path program = installed("modeller", "/bin/sleep");
    List<String> command = List.of(program.toString(), "600");
    Process process = new ProcessBuilder(command).start();
    try {
      Instance one = instance(process, command);
      assumeThat(one.program()).as("told by the host").isNotNull();
      Instant first = Installed.at(one).orElseThrow();
      assertThat(first).isEqualTo(changed(program)).isNotEqualTo(MADE.toInstant());
      assertThat(Installed.at(one)).as("asked again").contains(first);
    } finally {
      process.destroyForcibly().waitFor();
    }
    installed("modeller", "/bin/sleep");
    Process again = new ProcessBuilder(command).start();
    try {
      assertThat(Installed.at(instance(again, command))).contains(changed(program));
    } finally {
      again.destroyForcibly().waitFor();
    }
  }

  @Test
  void ofAnInterpreterWhatItRunsCountsAndNoDocumentDoes() throws Exception {
    Path script = Files.writeString(folder.resolve("drafter.sh"), "sleep 600\n");
    Path drawing = Files.writeString(folder.resolve("winding-gear.dxf"), "0\nEOF\n");
    List<String> command = List.of("/bin/sh", script.toString(), drawing.toString());
    Process process = new ProcessBuilder(command).start();
    try {
      assertThat(Installed.at(instance(process, command))).contains(changed(script));
      Files.writeString(drawing, "0\nSECTION\n0\nENDSEC\n0\nEOF\n");
      assertThat(Installed.at(instance(process, command))).contains(changed(script));
    } finally {
      process.descendants().forEach(ProcessHandle::destroyForcibly);
      process.destroyForcibly().waitFor();
    }
  }

  @Test
  void whereNobodyTellsItIsLookedForAmongPrograms() throws Exception {
    Instance bare = untold("sleep");
    Path sleep = Path.of("/usr/bin/sleep");
    assertThat(Installed.at(bare)).contains(changed(sleep));
    assertThat(Installed.at(untold("no-program-has-this-name"))).isEqualTo(Optional.empty());
    assertThat(Installed.at(untold(folder.resolve("gone").toString()))).isEmpty();
    assertThat(Installed.at(untold("no\0path"))).isEmpty();
  }

  private static Instance untold(String program) {
    return new Instance(1, "", Instant.EPOCH, List.of(program), null, null, Set.of(), null);
  }
}
