package dev.kavrin.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What only one system has stands behind the ports Permissions, Volumes and Processes. */
class HostPortsTest {
  private static final Pattern OF_ONE_SYSTEM =
      Pattern.compile(
          "attribute\\.Posix|\"unix:|\"posix|\"/proc/|\"/sys/|of\\(\"/(proc|sys)\"\\);");

  @ParameterizedTest
  @ValueSource(strings = {"core", "server"})
  void nothingElseAssumesOneSystem(String module) throws IOException {
    Path sources = Path.of("..", module, "src/main/java");
    List<Path> read = new ArrayList<>();
    List<String> faults = new ArrayList<>();
    try (Stream<Path> all = Files.walk(sources)) {
      for (Path file : all.filter(p -> p.toString().endsWith(".java")).toList()) {
        String folder = file.getParent().getFileName().toString();
        if (folder.equals("disk") || folder.equals("host")) {
          continue;
        }
        read.add(file);
        if (OF_ONE_SYSTEM.matcher(Files.readString(file)).find()) {
          faults.add(sources.relativize(file).toString());
        }
      }
    }
    assertThat(read).hasSizeGreaterThan(100);
    assertThat(faults).isEmpty();
  }
}
