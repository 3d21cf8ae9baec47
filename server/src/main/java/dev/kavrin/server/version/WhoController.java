package dev.kavrin.server.version;

import dev.kavrin.core.host.ProcessTable;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.server.platform.FileOwners;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Who has to do with a file on a drive that several people use, as far as the system tells. */
@RestController
class WhoController {
  private static final ProcessTable PROCESSES = ProcessTable.ofThisMachine();
  private static final long SIGN_AT_MOST = 4096;

  /** Common practice, no source: what programs call the file that says somebody is in here. */
  private static final Pattern SIGN =
      Pattern.compile("(?i)^[.~].*|.*[._-](lock|lck|open|busy|inuse|session)$");

  private final ProjectService projects;

  WhoController(ProjectService projects) {
    this.projects = projects;
  }

  /**
   * A sign of a session, of whatever machine.
   *
   * @param owner of that file, empty if the system does not tell
   */
  record Sign(String name, String owner, Instant since) {}

  /**
   * @param owner of the file, empty if the system does not tell
   * @param lastWriter who wrote it last, empty if the system does not tell
   * @param openIn processes of this machine that have it open, as far as they can be seen
   */
  record Who(String owner, String lastWriter, List<String> openIn, List<Sign> signs) {}

  @GetMapping("/api/documents/{id}/who")
  Who who(@PathVariable UUID id) throws IOException {
    Document document = projects.document(id);
    Path live = document.live();
    return new Who(FileOwners.owner(live), FileOwners.lastWriter(live), openIn(live), signs(live));
  }

  private static List<String> openIn(Path file) {
    return PROCESSES.now().stream()
        .filter(p -> PROCESSES.open(p.pid()).contains(file))
        .map(p -> p.arguments().get(0).replaceFirst("^.*/", ""))
        .distinct()
        .toList();
  }

  private static List<Sign> signs(Path live) throws IOException {
    String stem = FileName.of(live.getFileName().toString()).stem();
    List<Sign> signs = new ArrayList<>();
    try (DirectoryStream<Path> beside = Files.newDirectoryStream(live.getParent())) {
      for (Path file : beside) {
        String name = file.getFileName().toString();
        if (name.contains(stem)
            && SIGN.matcher(name).matches()
            && Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)
            && Files.size(file) <= SIGN_AT_MOST) {
          signs.add(
              new Sign(name, FileOwners.owner(file), Files.getLastModifiedTime(file).toInstant()));
        }
      }
    }
    return signs;
  }
}
