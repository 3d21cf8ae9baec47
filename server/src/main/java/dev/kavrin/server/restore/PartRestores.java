package dev.kavrin.server.restore;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.RemovalCause;
import com.github.benmanes.caffeine.cache.Scheduler;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.PartWriter.Brought;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.core.restore.PartRestore.Written;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.worker.ReaderWorker.Pick;
import dev.kavrin.core.worker.ReaderWorker.Taking;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.restore.RestoreService.ReceiptView;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionFiles.Inside;
import dev.kavrin.server.version.VersionFiles.Side;
import jakarta.annotation.Nullable;
import jakarta.annotation.PostConstruct;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Brings parts of older states, or other names for what it leans on, into the file of today:
 * written and proven to the side first, looked at, then put in its place like any restore.
 */
@Service
public class PartRestores {
  private static final Logger LOG = LoggerFactory.getLogger(PartRestores.class);
  private static final Duration AT_HAND = Duration.ofHours(2);

  private final ProjectService projects;
  private final VersionFiles files;
  private final ReaderProcess reader;
  private final RestoreService restores;
  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;
  private final Path folder;
  private final Cache<UUID, Composed> composed;

  PartRestores(
      ProjectService projects,
      VersionFiles files,
      ReaderProcess reader,
      RestoreService restores,
      Disk disk,
      Publisher publisher,
      Settings settings,
      InstantSource clock) {
    this.projects = projects;
    this.files = files;
    this.reader = reader;
    this.restores = restores;
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
    this.folder = settings.data().resolve("composed");
    this.composed =
        Caffeine.newBuilder()
            .expireAfterAccess(AT_HAND)
            .scheduler(Scheduler.systemScheduler())
            .evictionListener((UUID id, Composed c, RemovalCause why) -> letGo(c.file()))
            .build();
  }

  /**
   * Parts of one state.
   *
   * @param of the document whose state it is, null for the same
   */
  record Picked(@Nullable UUID of, String state, List<String> parts) {}

  /** A version that waits to be put in its place. */
  private record Composed(
      UUID document,
      Path file,
      ContentId base,
      ContentId content,
      List<String> changed,
      List<String> unequal) {}

  /** What a killed run left is of no use: nobody knows what it was for. */
  @PostConstruct
  void clear() throws IOException {
    Files.createDirectories(folder);
    try (Stream<Path> left = Files.list(folder)) {
      left.filter(Files::isRegularFile).forEach(this::letGo);
    }
  }

  private void letGo(Path file) {
    try {
      publisher.purge(file);
    } catch (IOException stays) {
      LOG.debug("{} stays: {}", file, stays.getMessage());
    }
  }

  /**
   * What came of writing it to the side.
   *
   * @param id to put it in its place by
   */
  record Prepared(UUID id, Written written) {}

  Prepared prepare(UUID id, List<Picked> picks) throws IOException {
    Document document = projects.document(id);
    Map<String, Side> sides = new LinkedHashMap<>();
    Map<String, List<String>> parts = new LinkedHashMap<>();
    for (Picked pick : picks) {
      UUID of = pick.of() == null ? id : pick.of();
      for (String part : pick.parts()) {
        Inside inside = files.inside(of, pick.state(), part);
        sides.computeIfAbsent(inside.content(), content -> side(content));
        parts.computeIfAbsent(inside.content(), k -> new ArrayList<>()).add(inside.part());
      }
    }
    ContentId base = publisher.identify(document.live());
    UUID composedId = Ids.next(clock.instant());
    Path target = folder.resolve(composedId.toString());
    List<Pick> wanted =
        sides.entrySet().stream()
            .map(
                s ->
                    new Pick(
                        s.getValue().file().toString(),
                        s.getValue().name(),
                        Map.of(),
                        List.copyOf(parts.get(s.getKey()))))
            .toList();
    String name = document.live().getFileName().toString();
    Written written =
        unchanged(
            base,
            document.live(),
            List.copyOf(sides.values()),
            () ->
                reader.take(
                    document.live(), name, new Taking(wanted, Map.of(), null, target.toString())));
    composed.put(
        composedId,
        new Composed(
            id,
            target,
            base,
            publisher.identify(target),
            written.brought().stream().map(PartRestores::words).toList(),
            written.unequal()));
    return new Prepared(composedId, written);
  }

  /**
   * What came of writing other names to the side.
   *
   * @param id to put it in its place by
   */
  public record Relinked(UUID id, Relink.Written written) {}

  /**
   * Writes the file of today with other names for what it leans on.
   *
   * @param names what to write by what stands there
   */
  public Relinked relink(UUID id, Map<String, String> names) throws IOException {
    Document document = projects.document(id);
    ContentId base = publisher.identify(document.live());
    UUID made = Ids.next(clock.instant());
    Path target = folder.resolve(made.toString());
    String name = document.live().getFileName().toString();
    Relink.Written written =
        unchanged(
            base,
            document.live(),
            List.of(),
            () -> reader.relink(document.live(), name, names, target));
    composed.put(
        made,
        new Composed(
            id,
            target,
            base,
            publisher.identify(target),
            written.renamed().stream().map(r -> r.from() + " is now " + r.to()).toList(),
            written.unequal()));
    return new Relinked(made, written);
  }

  private Side side(String content) {
    ContentId id = ContentId.parse(content);
    Path file =
        files
            .fileOf(id)
            .orElseThrow(
                () -> ProblemException.notFound("No copy of that version can be reached."));
    return new Side(content, file, files.nameOf(id, file));
  }

  private interface Writing<T> {
    T write();
  }

  /** The file of today and each source must hold what they are taken for while they are read. */
  private <T> T unchanged(ContentId base, Path live, List<Side> sources, Writing<T> writing)
      throws IOException {
    return Unchanged.read(
            disk,
            live,
            base,
            f -> {
              if (sources.isEmpty()) {
                return writing.write();
              }
              Side first = sources.get(0);
              return unchanged(
                  ContentId.parse(first.content()),
                  first.file(),
                  sources.subList(1, sources.size()),
                  writing);
            })
        .orElseThrow(
            () ->
                ProblemException.conflict(
                    "written-meanwhile",
                    live + " was written while it was read. Nothing was touched; try again."));
  }

  private Composed at(UUID document, UUID id) {
    Composed there = composed.getIfPresent(id);
    if (there == null || !there.document().equals(document)) {
      throw ProblemException.notFound(
          "That version is no longer at hand. Nothing was touched; look again.");
    }
    return there;
  }

  /** The file of today, and the version that waits. */
  public List<Side> sides(UUID document, UUID id) {
    Composed there = at(document, id);
    Path live = projects.document(document).live();
    String name = live.getFileName().toString();
    return List.of(
        new Side(there.base().toString(), live, name),
        new Side(there.content().toString(), there.file(), name));
  }

  /**
   * @throws ProblemException it is not proven, or the file was saved since it was looked at
   */
  ReceiptView restore(UUID document, UUID id, RestoreMode mode, String who) throws IOException {
    Composed there = at(document, id);
    if (!there.unequal().isEmpty()) {
      throw ProblemException.conflict(
          "not-proven",
          "What was written is not what was asked for: "
              + String.join("; ", there.unequal())
              + ". Nothing was touched.");
    }
    ReceiptView receipt =
        restores.putInPlace(document, there.file(), there.base(), mode, there.changed(), who);
    composed.invalidate(id);
    letGo(there.file());
    return receipt;
  }

  private static String words(Brought one) {
    return one.part() + (one.replaced() ? ", in place of the one of today" : ", which was gone");
  }
}
