package dev.kavrin.server.program;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.host.Installed;
import dev.kavrin.core.naming.Surroundings;
import dev.kavrin.core.profile.FolderPattern;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.restore.ProgramSettings;
import dev.kavrin.core.settings.AskedSettings;
import dev.kavrin.core.settings.Meaning;
import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.core.settings.SettingsGuess;
import dev.kavrin.core.settings.SettingsKind;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** How the programs' own settings stand, looked at again whenever a file changes. */
@Component
public class ProgramAudits {
  private final Engine engine;
  private final Disk disk;
  private final PathGuard guard;
  private final Events events;
  private final ProgramSettings settings;
  private final Map<UUID, Seen> seen = new ConcurrentHashMap<>();
  private final Map<UUID, Update> updates = new ConcurrentHashMap<>();

  /** As the pages were last told; others look in between, and tell nobody. */
  private final Map<UUID, Optional<Standing>> told = new ConcurrentHashMap<>();

  ProgramAudits(Engine engine, PathGuard guard, Events events) {
    this.engine = engine;
    this.disk = engine.disk();
    this.guard = guard;
    this.events = events;
    this.settings = new ProgramSettings(engine.disk(), engine.publisher(), engine.clock());
  }

  /**
   * How a program's settings stand.
   *
   * @param file with home and variables filled in, null if that cannot be
   * @param audit null if the file could not be read
   * @param problem why not, in words
   * @param updated when the program was updated after a person had looked its settings up; null if
   *     it was not, or a file tells them
   */
  public record Standing(
      @Nullable String file,
      @Nullable SettingsAudit audit,
      @Nullable String problem,
      @Nullable Instant updated) {
    Standing(@Nullable String file, @Nullable SettingsAudit audit, @Nullable String problem) {
      this(file, audit, problem, null);
    }
  }

  /** An update after settings were looked up, remembered when the program runs no more. */
  private record Update(AskedSettings asked, Instant at) {}

  private record Seen(SettingsLink link, @Nullable FileFacts facts, Standing standing) {}

  ProgramSettings settings() {
    return settings;
  }

  /** Empty if the profile links no settings, and nobody was asked for them. */
  public Optional<Standing> of(Kept kept) {
    AskedSettings asked = asked(kept);
    if (asked == null) {
      return look(kept.project().id(), kept.project().program());
    }
    kept.incidents().instances().stream()
        .flatMap(instance -> Installed.at(instance).stream())
        .filter(at -> asked.at() != null && at.isAfter(asked.at()))
        .max(Comparator.naturalOrder())
        .ifPresent(at -> updates.put(kept.project().id(), new Update(asked, at)));
    return Optional.of(answered(kept, asked));
  }

  /** What a person found, unless a file tells it. */
  @Nullable
  private static AskedSettings asked(Kept kept) {
    ProgramProfile profile = kept.project().program();
    return profile.settings() == null ? profile.asked() : null;
  }

  private Standing answered(Kept kept, AskedSettings asked) {
    Update update = updates.get(kept.project().id());
    return new Standing(
        null,
        SettingsAudit.of(asked),
        null,
        update != null && update.asked().equals(asked) ? update.at() : null);
  }

  /** The same as of a moment ago: for pages, which wait for no disk. */
  public Optional<Standing> lastKnown(Kept kept) {
    AskedSettings asked = asked(kept);
    if (asked != null) {
      return Optional.of(answered(kept, asked));
    }
    return Optional.ofNullable(seen.get(kept.project().id()))
        .filter(s -> s.link().equals(kept.project().program().settings()))
        .map(Seen::standing);
  }

  /**
   * How often the program writes: as its settings say if they are known, else as its sheet says;
   * null if it is off or nothing tells.
   */
  @Nullable
  public Duration writesEvery(Kept kept) {
    SettingsAudit audit = lastKnown(kept).map(Standing::audit).orElse(null);
    return audit == null ? kept.project().program().writesEvery() : audit.writesEvery();
  }

  @Scheduled(fixedDelay = 2000)
  void lookAll() {
    boolean changed = false;
    for (Kept kept : engine.projects()) {
      Optional<Standing> now = of(kept);
      Optional<Standing> before = told.put(kept.project().id(), now);
      changed |= !now.equals(before == null ? Optional.empty() : before);
    }
    if (changed) {
      events.changed("program");
    }
  }

  private Optional<Standing> look(UUID project, ProgramProfile sheet) {
    SettingsLink link = sheet.settings();
    if (link == null) {
      seen.remove(project);
      return Optional.empty();
    }
    Seen last = seen.get(project);
    try {
      Path file = file(link);
      FileFacts facts = disk.facts(file).orElse(null);
      boolean same =
          last != null
              && last.link().equals(link)
              && facts != null
              && last.facts() != null
              && facts.sameAs(last.facts());
      Standing standing = same ? last.standing() : read(link, file);
      seen.put(project, new Seen(link, facts, standing));
      return Optional.of(standing);
    } catch (IOException | IllegalArgumentException | ProblemException unreadable) {
      Standing standing = new Standing(null, null, unreadable.getMessage());
      seen.put(project, new Seen(link, null, standing));
      return Optional.of(standing);
    }
  }

  private Standing read(SettingsLink link, Path file) {
    try {
      return new Standing(
          file.toString(), SettingsAudit.of(link, settings.read(link, file).text()), null);
    } catch (NoSuchFileException absent) {
      return new Standing(file.toString(), null, file + " is not there.");
    } catch (IOException unreadable) {
      return new Standing(file.toString(), null, unreadable.getMessage());
    }
  }

  /** A file with what its keys seem to mean; empty unless it says something about autosaves. */
  public Optional<SettingsLink> proposed(Path file) {
    SettingsKind kind = SettingsKind.of(file.getFileName().toString()).orElse(null);
    if (kind == null) {
      return Optional.empty();
    }
    SettingsLink bare =
        new SettingsLink(
            file.toString(), kind, "", Map.of(), SettingsLink.Unit.MINUTES, SettingsLink.Wanted.ON);
    try {
      SettingsGuess guess = SettingsGuess.of(settings.read(bare, file(bare)).text());
      boolean tells =
          guess.keys().containsKey(Meaning.ENABLED) || guess.keys().containsKey(Meaning.INTERVAL);
      return tells
          ? Optional.of(
              new SettingsLink(
                  bare.file(), kind, "", guess.keys(), guess.unit(), SettingsLink.Wanted.ON))
          : Optional.empty();
    } catch (IOException | IllegalArgumentException | ProblemException unreadable) {
      return Optional.empty();
    }
  }

  /** How a linked file stands now, in one line each. */
  public List<String> inWords(SettingsLink link) {
    try {
      return SettingsAudit.of(link, settings.read(link, file(link)).text()).lines().stream()
          .map(SettingsAudit.Line::words)
          .toList();
    } catch (IOException unreadable) {
      return List.of(unreadable.getMessage());
    }
  }

  /** A linked file under an allowed root. */
  Path file(SettingsLink link) throws IOException {
    Path file = newest(link.resolved(Surroundings.here()));
    return guard.inside(guard.folder(file.getParent().toString()), file.getFileName().toString());
  }

  /** Of several files that fit a path with {@code *} the one written last. */
  private Path newest(Path path) throws IOException {
    if (!path.toString().contains("*")) {
      return path;
    }
    Path name = path.getFileName();
    PathMatcher fits = FileSystems.getDefault().getPathMatcher("glob:" + name);
    Path newest = null;
    FileFacts facts = null;
    for (Path folder :
        FolderPattern.of(path.getParent().toString()).folders(disk, path, Surroundings.here())) {
      for (Path file : disk.list(guard.folder(folder.toString()))) {
        FileFacts found = disk.facts(file).filter(FileFacts::isFile).orElse(null);
        if (found != null
            && fits.matches(file.getFileName())
            && (facts == null || found.modifiedNanos() > facts.modifiedNanos())) {
          newest = file;
          facts = found;
        }
      }
    }
    if (newest == null) {
      throw new NoSuchFileException(path.toString());
    }
    return newest;
  }
}
