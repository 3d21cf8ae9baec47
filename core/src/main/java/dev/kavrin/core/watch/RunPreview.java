package dev.kavrin.core.watch;

import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.backup.SplitSteps;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.version.Runs;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * What a rule for runs finds in a folder, before it is applied.
 *
 * @param strangers files in the folders of runs that fit no pattern, some of them
 */
public record RunPreview(List<Run> runs, List<String> strangers) {
  private static final int MOST_STRANGERS = 12;

  /**
   * One set-up with its steps.
   *
   * @param setup relative to the project folder
   * @param from lowest step on disk, null if there is none
   * @param runs how many runs the order of writing tells of
   * @param told what speaks against a step, in words
   */
  public record Run(
      String setup,
      @Nullable Long from,
      @Nullable Long to,
      long runs,
      int restarts,
      int results,
      List<String> told) {}

  public static RunPreview of(
      Disk disk, Inspector inspector, Clockwork clock, Path folder, SetRule rule)
      throws IOException {
    List<Run> runs = new ArrayList<>();
    List<String> strangers = new ArrayList<>();
    for (Path document :
        Discovery.look(disk, folder, List.of(), rule, ProgramProfile.UNKNOWN).documents()) {
      List<RunFolder.StepFiles> steps = new RunFolder(disk, inspector, clock).look(rule, document);
      runs.add(run(folder, rule, document, steps));
      strangers.addAll(strangers(disk, folder, rule, document, steps));
    }
    return new RunPreview(runs, strangers.stream().distinct().limit(MOST_STRANGERS).toList());
  }

  private static Run run(Path folder, SetRule rule, Path setup, List<RunFolder.StepFiles> steps) {
    SplitSteps split = new SplitSteps(rule, setup.getFileName().toString(), steps, List.of());
    List<Runs.Step> order =
        Runs.order(
            List.of(), steps.stream().map(s -> new Runs.Seen(s.step(), s.written())).toList());
    return new Run(
        RelativePath.of(folder, setup),
        steps.isEmpty() ? null : steps.get(0).step(),
        steps.isEmpty() ? null : steps.get(steps.size() - 1).step(),
        order.stream().mapToLong(Runs.Step::run).max().orElse(0),
        count(steps, Role.RESTART),
        count(steps, Role.RESULT),
        steps.stream()
            .flatMap(
                s ->
                    Stream.concat(s.told().stream(), split.lacks(s).stream())
                        .map(t -> "step " + s.step() + ": " + t))
            .toList());
  }

  private static int count(List<RunFolder.StepFiles> steps, Role role) {
    return (int) steps.stream().filter(s -> s.files().containsKey(role)).count();
  }

  private static List<String> strangers(
      Disk disk, Path folder, SetRule rule, Path setup, List<RunFolder.StepFiles> steps)
      throws IOException {
    List<Path> known = steps.stream().flatMap(RunFolder.StepFiles::all).map(f -> f.path()).toList();
    List<String> strangers = new ArrayList<>();
    for (Path there : RunFolder.folders(disk, rule, setup)) {
      for (Path path : disk.list(there)) {
        String name = path.getFileName().toString();
        boolean plain = disk.facts(path).filter(FileFacts::isFile).isPresent();
        if (plain
            && !name.startsWith(".")
            && !known.contains(path)
            && !rule.isSetup(name)
            && !rule.isStep(name)) {
          strangers.add(RelativePath.of(folder, path));
        }
      }
    }
    return strangers;
  }
}
