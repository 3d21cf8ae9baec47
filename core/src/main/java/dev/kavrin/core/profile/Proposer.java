package dev.kavrin.core.profile;

import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.Proposal.Clue;
import dev.kavrin.core.profile.Proposal.Topic;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;

/** Makes a program sheet of what was seen. */
public final class Proposer {
  private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm:ss");
  private static final List<Duration> USUAL =
      List.of(10, 15, 20, 30, 60, 120, 180, 240, 300, 600, 900, 1200, 1800, 3600).stream()
          .map(Duration::ofSeconds)
          .toList();

  private final Path home;
  private final ZoneId zone;

  /**
   * @param home for which {@code ~} stands
   */
  public Proposer(Path home, ZoneId zone) {
    this.home = home;
    this.zone = zone;
  }

  /**
   * @param chosen the document as the person says, or null to guess it
   */
  public Proposal propose(Seen seen, @Nullable Path chosen) {
    List<Path> documents = DocumentGuess.of(seen);
    Path document = chosen != null ? chosen : documents.isEmpty() ? null : documents.get(0);
    if (document == null) {
      return new Proposal(ProgramProfile.UNKNOWN, null, List.of(), List.of(), List.of(), false);
    }
    Habits habits = new Habits(seen, document);
    List<Clue> clues = new ArrayList<>();
    String rule = rule(document);
    clues.add(new Clue(Topic.DOCUMENT, rule, whyDocument(seen, habits, document), !seen.idle()));
    Optional<ProcessGuess.Found> process =
        new ProcessGuess(seen, document, habits.copies().keySet()).find();
    process.ifPresent(p -> clues.add(new Clue(Topic.PROCESS, p.words(), p.why(), p.sure())));
    NamePattern sign = sign(habits, document, clues);
    List<ProgramProfile.Leftover> leftovers = leftovers(habits, document, clues);
    List<Path> nameless = habits.nameless();
    if (!nameless.isEmpty()) {
      clues.add(
          new Clue(
              Topic.NAMELESS,
              "",
              nameless.get(0)
                  + ": written meanwhile, but its name does not tell the document; such copies"
                  + " are found by their content",
              false));
    }
    Duration rhythm = rhythm(seen, habits, clues);
    ProgramProfile sheet =
        new ProgramProfile(
            process.map(ProcessGuess.Found::name).orElse("program for " + rule),
            process.map(ProcessGuess.Found::words).orElse(""),
            sign,
            rhythm,
            leftovers,
            null);
    boolean writes = leftovers.stream().anyMatch(l -> l.kind() == CopyKind.AUTOSAVE);
    return new Proposal(sheet, document, documents, List.of(rule), clues, writes);
  }

  private static String rule(Path document) {
    String ext = FileName.of(document.getFileName().toString()).ext();
    return ext.isEmpty() ? document.getFileName().toString() : "*." + ext;
  }

  private String whyDocument(Seen seen, Habits habits, Path document) {
    String name = document.getFileName().toString();
    return habits.saves().isEmpty()
        ? name
            + " lies there"
            + (habits.copies().isEmpty()
                ? ""
                : ", with " + Words.count(habits.copies().size(), "file") + " named after it")
        : name + " was saved at " + clocks(habits.saves());
  }

  private String clocks(List<Instant> moments) {
    List<String> shown =
        moments.stream().limit(3).map(m -> CLOCK.format(m.atZone(zone))).distinct().toList();
    return String.join(", ", shown) + (moments.size() > 3 ? " and later" : "");
  }

  @Nullable
  private NamePattern sign(Habits habits, Path document, List<Clue> clues) {
    Habits.Sign sign = habits.sign().orElse(null);
    if (sign == null) {
      return null;
    }
    String name = sign.path().getFileName().toString();
    NamePattern pattern =
        NameGuess.of(name, document.getFileName().toString(), false)
            .filter(p -> !p.toString().contains("{n}") && !p.toString().contains("{any}"))
            .orElse(null);
    if (pattern != null) {
      clues.add(
          new Clue(
              Topic.SIGN,
              pattern.toString(),
              sign.gone()
                  ? name + " stood while the file was open and went when it was closed"
                  : name + " stands; close the program to be sure",
              sign.gone()));
    }
    return pattern;
  }

  private record Group(CopyKind kind, FolderPattern folder, NamePattern pattern) {}

  private List<ProgramProfile.Leftover> leftovers(Habits habits, Path document, List<Clue> clues) {
    Map<Group, List<Map.Entry<Path, Habits.Copy>>> groups = new LinkedHashMap<>();
    for (Map.Entry<Path, Habits.Copy> e : habits.copies().entrySet()) {
      FolderPattern folder = folder(e.getKey().getParent(), document);
      NameGuess.of(
              e.getKey().getFileName().toString(),
              document.getFileName().toString(),
              folder.toString().contains("{stem}"))
          .ifPresent(
              pattern ->
                  groups
                      .computeIfAbsent(
                          new Group(e.getValue().kind(), folder, pattern), g -> new ArrayList<>())
                      .add(e));
    }
    List<ProgramProfile.Leftover> leftovers = new ArrayList<>();
    groups.forEach(
        (group, files) -> {
          leftovers.add(new ProgramProfile.Leftover(group.kind(), group.folder(), group.pattern()));
          boolean sure = files.stream().anyMatch(f -> f.getValue().sure());
          clues.add(
              new Clue(
                  Topic.valueOf(group.kind().name()),
                  group.folder() + "/" + group.pattern(),
                  why(group, files),
                  sure));
        });
    return leftovers;
  }

  private String why(Group group, List<Map.Entry<Path, Habits.Copy>> files) {
    String name = files.get(0).getKey().getFileName().toString();
    TreeSet<Instant> writes = new TreeSet<>();
    files.forEach(f -> writes.addAll(f.getValue().writes()));
    String which = files.size() == 1 ? name : name + " and " + (files.size() - 1) + " more";
    if (writes.isEmpty()) {
      return which + (files.size() == 1 ? " lies there" : " lie there");
    }
    String when = clocks(List.copyOf(writes));
    return switch (group.kind()) {
      case KEPT_BY_SAVE -> which + ": written together with the save, " + when;
      case RESCUE -> which + ": written " + when;
      default -> which + ": written " + when + ", while the file itself stayed as it was";
    };
  }

  /** As seen from the document where it lies near it, else from home, else absolute. */
  private FolderPattern folder(Path folder, Path document) {
    Path from = document.getParent();
    String stem = FileName.of(document.getFileName().toString()).stem();
    String text;
    if (folder.startsWith(from)) {
      text = from.relativize(folder).toString();
    } else if (from.getParent() != null
        && from.getParent().getNameCount() > 0
        && folder.startsWith(from.getParent())) {
      text = from.relativize(folder).toString();
    } else {
      text = folder.startsWith(home) ? "~/" + home.relativize(folder) : folder.toString();
    }
    return text.isEmpty() ? FolderPattern.BESIDE : FolderPattern.of(text.replace(stem, "{stem}"));
  }

  @Nullable
  private static Duration rhythm(Seen seen, Habits habits, List<Clue> clues) {
    TreeSet<Instant> writes = new TreeSet<>();
    habits.copies().values().stream()
        .filter(c -> c.kind() == CopyKind.AUTOSAVE)
        .forEach(c -> writes.addAll(c.writes()));
    if (writes.isEmpty()) {
      return null;
    }
    List<Duration> gaps = new ArrayList<>();
    Instant last = null;
    for (Instant write : writes) {
      Instant before = last;
      if (before != null && habits.saves().stream().noneMatch(s -> within(s, before, write))) {
        gaps.add(Duration.between(before, write));
      }
      last = write;
    }
    gaps.removeIf(g -> g.compareTo(Duration.ofSeconds(1)) < 0);
    boolean several = !gaps.isEmpty();
    Duration rhythm = several ? median(gaps) : sinceStart(seen, habits, writes.first());
    if (rhythm == null) {
      return null;
    }
    Duration usual = usual(rhythm);
    clues.add(
        new Clue(
            Topic.RHYTHM,
            usual.toString(),
            several
                ? Words.count(writes.size(), "autosave") + ", " + Words.age(rhythm) + " apart"
                : "the first autosave came "
                    + Words.age(rhythm)
                    + " after the file was opened or saved",
            several));
    return usual;
  }

  private static boolean within(Instant at, Instant from, Instant to) {
    return at.isAfter(from) && at.isBefore(to);
  }

  private static Duration median(List<Duration> gaps) {
    List<Duration> sorted = gaps.stream().sorted().toList();
    return sorted.get(sorted.size() / 2);
  }

  @Nullable
  private static Duration sinceStart(Seen seen, Habits habits, Instant first) {
    Instant from =
        habits.saves().stream()
            .filter(s -> s.isBefore(first))
            .reduce((a, b) -> b)
            .or(() -> habits.sign().map(Habits.Sign::from))
            .orElse(null);
    return from == null || !from.isBefore(first) ? null : Duration.between(from, first);
  }

  /** A program's setting is a round number; what was measured is near it. */
  private static Duration usual(Duration measured) {
    Duration seconds = Duration.ofSeconds(Math.max(1, Math.round(measured.toMillis() / 1000.0)));
    return USUAL.stream()
        .filter(u -> u.minus(measured).abs().toMillis() <= Math.max(1500, u.toMillis() / 10))
        .findFirst()
        .orElse(seconds);
  }
}
