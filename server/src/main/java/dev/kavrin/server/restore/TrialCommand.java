package dev.kavrin.server.restore;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.server.platform.Scratch;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/**
 * Runs a command of a person's own on a copy of a state in a scratch folder, such as a solver that
 * goes on for one step; how it ended is kept as their word about that state.
 */
@Service
class TrialCommand {
  private static final Duration LONGEST = Duration.ofMinutes(10);

  private final ProjectService projects;
  private final VersionService trail;
  private final VersionFiles files;
  private final Scratch scratch;
  private final Disk disk;
  private final Publisher publisher;

  TrialCommand(
      ProjectService projects,
      VersionService trail,
      VersionFiles files,
      Scratch scratch,
      Disk disk,
      Publisher publisher) {
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.scratch = scratch;
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * How it ended.
   *
   * @param exit its exit status, null if it was stopped for taking too long
   * @param output the end of what it wrote
   * @param step the last step it wrote, null if none
   * @param made files it made
   * @param words as they stand with the state
   */
  record CommandView(
      @Nullable Integer exit,
      double seconds,
      String output,
      @Nullable Long step,
      List<String> made,
      String words) {}

  /**
   * @param command given to the shell in the folder with the copy; {@code KAVRIN_FILE} names the
   *     document's own file there, {@code KAVRIN_STEP} the step
   */
  CommandView run(UUID id, String state, String command, String who) throws IOException {
    Document document = projects.document(id);
    StateView view = trail.state(id, state);
    List<StepLayout.Piece> pieces =
        view.step() == null ? List.of(whole(document, state)) : files.pieces(id, state);
    long bytes = pieces.stream().mapToLong(p -> p.content().length()).sum();
    CommandView ran =
        scratch.with(2 * bytes, folder -> in(folder, document, view, pieces, command));
    boolean right = ran.exit() != null && ran.exit() == 0;
    trail.mark(id, state, right ? "opened right" : "opened wrong", true, who, ran.words());
    return ran;
  }

  private StepLayout.Piece whole(Document document, String state) throws IOException {
    CopyView copy = trail.bestCopy(document.id(), state);
    ContentId content = publisher.identify(Path.of(copy.path()));
    return new StepLayout.Piece(
        Path.of(copy.path()), content, document.live().getFileName().toString());
  }

  private CommandView in(
      Path folder, Document document, StateView view, List<StepLayout.Piece> pieces, String command)
      throws IOException {
    Set<Path> laid = new HashSet<>();
    for (StepLayout.Piece piece : pieces) {
      Path target = folder.resolve(piece.relative()).normalize();
      if (!target.startsWith(folder)) {
        throw new IOException(piece.relative() + " leads out of the scratch folder");
      }
      disk.makeFolders(target.getParent());
      publisher.copy(piece.source(), target);
      laid.add(target);
    }
    long began = System.nanoTime();
    CommandRun.End end =
        CommandRun.of(
            command,
            folder,
            Map.of(
                "KAVRIN_FILE",
                folder.resolve(document.live().getFileName()).toString(),
                "KAVRIN_STEP",
                view.step() == null ? "" : String.valueOf(view.step().step())),
            LONGEST);
    double seconds = (System.nanoTime() - began) / 1e9;
    List<Path> made;
    try (Stream<Path> all = Files.walk(folder)) {
      made = all.filter(Files::isRegularFile).filter(p -> !laid.contains(p)).toList();
    }
    OptionalLong step = lastStep(folder, document, view, made);
    return new CommandView(
        end.exit(),
        seconds,
        end.output(),
        step.isPresent() ? step.getAsLong() : null,
        made.stream().map(p -> RelativePath.of(folder, p)).sorted().toList(),
        words(end.exit(), seconds, step));
  }

  private static String words(@Nullable Integer exit, double seconds, OptionalLong step) {
    String end =
        exit == null
            ? "own command, stopped after " + LONGEST.toMinutes() + " min"
            : String.format(
                java.util.Locale.ROOT, "own command, exit %d after %.1f s", exit, seconds);
    return end + (step.isPresent() ? ", wrote step " + step.getAsLong() : "");
  }

  private OptionalLong lastStep(Path folder, Document document, StateView view, List<Path> made) {
    SetRule sets = projects.kept(document.project()).project().sets();
    if (sets == null || view.step() == null) {
      return OptionalLong.empty();
    }
    return made.stream()
        .flatMap(p -> claim(sets, document, folder.relativize(p)).stream())
        .filter(c -> c.step() != null)
        .mapToLong(SetRule.Claim::step)
        .filter(s -> s > view.step().step())
        .max();
  }

  private static Optional<SetRule.Claim> claim(SetRule sets, Document document, Path made) {
    String below = made.getParent() == null ? "" : made.getParent().toString();
    String setup = document.live().getFileName().toString();
    return sets.claim(setup, below, made.getFileName().toString());
  }
}
