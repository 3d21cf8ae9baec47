package dev.kavrin.server.room;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.retention.DiskRooms;
import dev.kavrin.core.retention.SharedRoom;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Settings;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Adds up what Kavrin takes of each disk, and what going without it would free. */
@Service
class RoomService {
  private static final String TRIALS = "trials";
  private static final String PREVIEWS = "previews";

  private final Engine engine;
  private final Disk disk;
  private final Path data;
  private final FreeRoom free;
  private final RecordsSize records;
  private final DiskRooms rooms;

  RoomService(Engine engine, Settings settings, FreeRoom free, RecordsSize records) {
    this.engine = engine;
    this.disk = engine.disk();
    this.data = settings.data();
    this.free = free;
    this.records = records;
    this.rooms = Kept.rooms(disk, engine::projects);
  }

  /** What takes room. */
  enum Kind {
    BACKUPS,
    SECURED,
    AS_WRITTEN,
    BIN,
    PUT_ASIDE,
    RETAINED,
    TEST_COPIES,
    PICTURES,
    RECORDS
  }

  /**
   * One thing that takes room.
   *
   * @param project null for what serves all
   * @param frees bytes that come free without touching the newest whole backup of any document
   * @param reaches work of the oldest that stands, null where that says nothing
   * @param thenReaches of the oldest that would still stand, null likewise
   */
  record Taken(
      Kind kind,
      @Nullable String project,
      int files,
      long bytes,
      long frees,
      @Nullable Instant reaches,
      @Nullable Instant thenReaches) {}

  /**
   * A disk with what Kavrin takes of it.
   *
   * @param folders of Kavrin's that lie on it
   * @param fullAt when it is full if all goes on as seen, others' writes included; null if not
   *     within 30 days, or nothing was seen yet
   * @param grownPerHour bytes it lost of late an hour, by everybody; null before an hour was seen
   * @param limit what all backups on it may take together; null for no limit
   * @param held what they take, those in the bins included
   * @param lines the largest first
   */
  record DiskRoom(
      String disk,
      List<String> folders,
      long free,
      long capacity,
      @Nullable Instant fullAt,
      @Nullable Long grownPerHour,
      @Nullable Long limit,
      long held,
      List<Taken> lines) {}

  /** All disks with a folder of Kavrin's that is here, the fullest first. */
  List<DiskRoom> all() {
    Map<String, List<Path>> disks = new TreeMap<>();
    for (Path folder : folders()) {
      try {
        disks.computeIfAbsent(disk.device(folder), d -> new ArrayList<>()).add(folder);
      } catch (IOException away) {
        // What is away takes no room that could be freed now.
      }
    }
    return disks.entrySet().stream()
        .flatMap(d -> of(d.getKey(), d.getValue()).stream())
        .sorted(Comparator.comparingDouble(d -> (double) d.free() / Math.max(1, d.capacity())))
        .toList();
  }

  private List<Path> folders() {
    List<Path> all = new ArrayList<>();
    for (Kept kept : engine.projects()) {
      kept.folders().all().forEach(f -> all.add(f.root()));
      all.add(Path.of(kept.project().folder()));
    }
    all.add(data);
    return all.stream().distinct().toList();
  }

  private List<DiskRoom> of(String device, List<Path> folders) {
    try {
      Path first = folders.get(0);
      List<Taken> lines = new ArrayList<>();
      for (Kept kept : engine.projects()) {
        for (BackupFolder folder : kept.folders().all()) {
          if (folders.contains(folder.root())) {
            lines.addAll(backups(kept, folder));
          }
        }
        if (folders.contains(Path.of(kept.project().folder()))) {
          lines.add(putAside(kept));
          lines.add(retained(kept));
        }
      }
      if (folders.contains(data)) {
        lines.add(files(Kind.PICTURES, null, data.resolve(PREVIEWS)));
        records
            .bytes()
            .ifPresent(b -> lines.add(new Taken(Kind.RECORDS, null, 1, b, 0, null, null)));
      }
      long room = disk.room(first);
      return List.of(
          new DiskRoom(
              device,
              folders.stream().map(Path::toString).toList(),
              room,
              disk.capacity(first),
              free.fullAt(device, room).orElse(null),
              free.perHour(device).orElse(null),
              rooms.limited(device).map(SharedRoom::bytes).orElse(null),
              new SharedRoom(rooms.on(device), 0).taken(),
              lines.stream()
                  .filter(l -> l.bytes() > 0)
                  .sorted(Comparator.comparingLong(Taken::bytes).reversed())
                  .toList()));
    } catch (IOException away) {
      return List.of();
    }
  }

  private List<Taken> backups(Kept kept, BackupFolder folder) {
    History history = folder.history();
    String project = kept.project().name();
    List<UUID> documents =
        history.documents(kept.project().id()).stream().map(JournalEntry.DocumentSet::id).toList();
    List<BackupRecord> standing =
        documents.stream().flatMap(d -> history.captures(d).stream()).toList();
    List<BackupRecord> protecting =
        documents.stream().flatMap(d -> new KeepInputs(history, d).protecting().stream()).toList();
    List<History.Binned> binned =
        history.bin().stream().filter(b -> documents.contains(b.capture().document())).toList();
    long inBin = binned.stream().mapToLong(history::stored).sum();
    Copies copies = new Copies(project, history, standing, protecting);
    Path trials = folder.root().resolve(TRIALS);
    return List.of(
        copies.of(Kind.BACKUPS, CopyKind.CAPTURE),
        copies.of(Kind.SECURED, CopyKind.SECURED),
        copies.of(Kind.AS_WRITTEN, CopyKind.AS_WRITTEN),
        new Taken(
            Kind.BIN,
            project,
            binned.size(),
            inBin,
            inBin,
            oldest(binned.stream().map(History.Binned::capture).toList()),
            null),
        files(Kind.TEST_COPIES, project, trials));
  }

  /** A project's backups in one folder. */
  private record Copies(
      String project, History history, List<BackupRecord> all, List<BackupRecord> stay) {
    Taken of(Kind kind, CopyKind wanted) {
      List<BackupRecord> meant = all.stream().filter(c -> c.kind() == wanted).toList();
      List<BackupRecord> staying = meant.stream().filter(stay::contains).toList();
      return new Taken(
          kind,
          project,
          meant.size(),
          bytes(meant),
          bytes(meant) - bytes(staying),
          oldest(meant),
          oldest(staying));
    }

    private long bytes(Collection<BackupRecord> copies) {
      return copies.stream().mapToLong(history::stored).sum();
    }
  }

  @Nullable
  private static Instant oldest(Collection<BackupRecord> copies) {
    return copies.stream().map(c -> c.workFrom()).min(Comparator.naturalOrder()).orElse(null);
  }

  /** Former files that restores put aside: without them a restore cannot be undone. */
  private Taken putAside(Kept kept) {
    List<Long> sizes =
        kept.folder().history().receipts().stream()
            .filter(r -> r.aside() != null)
            .filter(r -> r.target().startsWith(kept.project().folder()))
            .map(r -> size(Path.of(r.aside())))
            .filter(s -> s >= 0)
            .toList();
    long all = sizes.stream().mapToLong(Long::longValue).sum();
    return new Taken(Kind.PUT_ASIDE, kept.project().name(), sizes.size(), all, all, null, null);
  }

  private Taken retained(Kept kept) {
    List<Long> sizes = kept.incidents().retained(kept.project());
    long all = sizes.stream().mapToLong(Long::longValue).sum();
    return new Taken(Kind.RETAINED, kept.project().name(), sizes.size(), all, 0, null, null);
  }

  private Taken files(Kind kind, @Nullable String project, Path folder) {
    List<Long> sizes = new ArrayList<>();
    walk(folder, sizes);
    long all = sizes.stream().mapToLong(Long::longValue).sum();
    return new Taken(kind, project, sizes.size(), all, all, null, null);
  }

  private void walk(Path folder, List<Long> sizes) {
    try {
      for (Path path : disk.list(folder)) {
        long size = size(path);
        if (size >= 0) {
          sizes.add(size);
        } else if (disk.facts(path).filter(f -> f.isFolder()).isPresent()) {
          walk(path, sizes);
        }
      }
    } catch (IOException absent) {
      // Nothing of the kind was made there.
    }
  }

  /** Of a plain file; -1 where none stands. */
  private long size(Path file) {
    try {
      return disk.facts(file).filter(f -> f.isFile()).map(f -> f.size()).orElse(-1L);
    } catch (IOException away) {
      return -1;
    }
  }
}
