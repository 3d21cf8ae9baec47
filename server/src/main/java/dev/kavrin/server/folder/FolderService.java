package dev.kavrin.server.folder;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.Node;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Places: folders with a role and a marker. */
@Service
public class FolderService {
  /** What is said of backups that lie beside the work. */
  public static final String SAME_DISK =
      "It is on the same disk as the work: one broken disk takes both.";

  private static final long LITTLE_ROOM = 1_000_000_000;

  private final FolderRows rows;
  private final PathGuard guard;
  private final Disk disk;
  private final Publisher publisher;
  private final Node node;
  private final Settings settings;
  private final InstantSource clock;
  private final TransactionTemplate transaction;
  private final FoldersAtHand atHand;

  FolderService(
      FolderRows rows,
      PathGuard guard,
      Disk disk,
      Publisher publisher,
      Node node,
      Settings settings,
      InstantSource clock,
      TransactionTemplate transaction) {
    this.transaction = transaction;
    this.rows = rows;
    this.guard = guard;
    this.disk = disk;
    this.publisher = publisher;
    this.node = node;
    this.settings = settings;
    this.clock = clock;
    this.atHand =
        new FoldersAtHand(() -> rows.findAll().stream().map(FolderService::seen).toList());
  }

  /**
   * Looks whether a folder can take a role; changes nothing but a probe file it takes away again.
   *
   * @param work the work folder it would serve, or null
   */
  public FolderCheck check(String text, FolderRole role, String work) throws IOException {
    Path path = guard.folderToMake(text);
    boolean exists = Files.isDirectory(path);
    Path nearest = path;
    while (!Files.isDirectory(nearest)) {
      nearest = nearest.getParent();
    }
    boolean writable = Files.isWritable(nearest);
    long free = disk.room(nearest);
    List<String> faults = new ArrayList<>();
    List<String> cautions = new ArrayList<>();
    if (!exists && Files.exists(path)) {
      faults.add("Something that is not a folder has that name.");
    }
    if (!exists && role == FolderRole.WORK) {
      faults.add("There is no such folder.");
    }
    if (!writable) {
      faults.add("Kavrin may not write there.");
    }
    String relation = "";
    if (work != null && !work.isBlank()) {
      relation = against(guard.folder(work), path, nearest, faults, cautions);
    }
    if (role == FolderRole.RECOVERY) {
      all().stream()
          .filter(p -> p.role() == FolderRole.RECOVERY && !p.path().equals(path))
          .filter(p -> p.path().startsWith(path) || path.startsWith(p.path()))
          .forEach(
              p -> faults.add("One lies inside the other: " + p.path() + " takes copies, too."));
    }
    if (free < LITTLE_ROOM) {
      cautions.add("Less than 1 GB is free there.");
    }
    Optional<FolderMarker> marker = FolderMarker.read(disk, path);
    if (marker.filter(m -> !m.node().equals(node.id())).isPresent()) {
      faults.add("Another Kavrin is in charge of that folder.");
    }
    boolean holds = Files.exists(BackupFolder.journalFile(path));
    return new FolderCheck(
        path.toString(),
        exists,
        writable,
        free,
        relation,
        holds,
        faults,
        cautions,
        exists && writable ? differences(path) : List.of());
  }

  /** What is different there from a folder that can do everything; as measured there. */
  private List<String> differences(Path path) {
    try {
      return publisher.abilities(path).told();
    } catch (IOException cannotBeMeasured) {
      return List.of("What it can do could not be measured: " + cannotBeMeasured.getMessage());
    }
  }

  private static String against(
      Path work, Path path, Path nearest, List<String> faults, List<String> cautions) {
    if (path.startsWith(work)) {
      faults.add("The backup folder lies inside the work folder it should protect.");
    }
    if (work.startsWith(path)) {
      faults.add("The work folder lies inside that folder.");
    }
    String relation = Disks.relation(work, nearest);
    if (!relation.equals("another disk")) {
      cautions.add(
          relation.equals("the same disk")
              ? SAME_DISK
              : "It is perhaps on the same disk as the work.");
    }
    return relation;
  }

  /**
   * Makes a folder a place: marker put down, or the one that stands there taken.
   *
   * @throws ProblemException it cannot take the role; says why
   */
  public Folder add(String text, FolderRole role, String work) throws IOException {
    FolderCheck check = check(text, role, work);
    if (!check.faults().isEmpty()) {
      throw ProblemException.badInput(
          "unfit-folder",
          check.path() + ": " + String.join(" ", check.faults()) + " Nothing was changed.");
    }
    Path path = Path.of(check.path());
    disk.makeFolders(path);
    return ensure(path, role);
  }

  /**
   * Makes a folder one that is looked into. Nothing is ever written there, no marker either: it may
   * be a snapshot, or another tool's.
   *
   * @throws ProblemException there is none, or it serves as another kind of folder
   */
  public Folder lookInto(String text) throws IOException {
    Path path = guard.folder(text);
    Folder folder =
        byPath(path).orElseGet(() -> known(path, placeholder(path), FolderRole.PROGRAM));
    if (folder.role() != FolderRole.PROGRAM) {
      throw ProblemException.conflict(
          "other-role", path + " already serves as another kind of folder.");
    }
    return folder;
  }

  /**
   * The recorded folder at a path, recorded and marked now if it is new.
   *
   * @throws FolderAwayException one is recorded there whose marker is not: its drive is away, and
   *     nothing is put into the place where it will come back
   */
  public Folder ensure(Path path, FolderRole role) throws IOException {
    return known(path, marked(path, role).uuid(), role);
  }

  /** The marker goes before the record: who finds a record and no marker looks once more. */
  private FolderMarker marked(Path path, FolderRole role) throws IOException {
    Optional<FolderMarker> stands = FolderMarker.read(disk, path);
    if (stands.isPresent()) {
      return stands.get();
    }
    if (byPath(path).isPresent()) {
      return FolderMarker.read(disk, path).orElseThrow(() -> new FolderAwayException(path));
    }
    return new FolderMarker(Ids.next(clock.instant()), role.name(), node.id(), clock.instant())
        .writeUnlessOneStands(disk, publisher, path);
  }

  /** The same for one whose drive may be away; it is known by its marker once it is back. */
  public Folder expect(Path path, FolderRole role) {
    try {
      return ensure(path, role);
    } catch (IOException away) {
      return known(path, placeholder(path), role);
    }
  }

  private static UUID placeholder(Path path) {
    return UUID.nameUUIDFromBytes(path.toString().getBytes(StandardCharsets.UTF_8));
  }

  /** The recorded folder of a marker, recorded now if it is new; no disk is asked. */
  public Folder known(Path path, UUID uuid, FolderRole role) {
    return transaction.execute(t -> record(path, uuid, role));
  }

  private Folder record(Path path, UUID uuid, FolderRole role) {
    Optional<FolderRow> found = rows.findByUuid(uuid).or(() -> rows.findByPath(path.toString()));
    if (found.isEmpty()) {
      rows.recordUnlessKnown(
          uuid, node.id(), path.toString(), role.name(), settings.zone().getId(), clock.instant());
      atHand.changed();
      found = rows.findByUuid(uuid).or(() -> rows.findByPath(path.toString()));
    }
    FolderRow row = found.orElseThrow();
    if (row.uuid.equals(uuid) && row.path.equals(path.toString()) && row.node.equals(node.id())) {
      return seen(row);
    }
    row.uuid = uuid;
    row.node = node.id();
    row.path = path.toString();
    row.zone = settings.zone().getId();
    atHand.changed();
    return seen(rows.save(row));
  }

  public List<Folder> all() {
    return atHand.get();
  }

  public Optional<Folder> byKey(long key) {
    return all().stream().filter(f -> f.key() == key).findFirst();
  }

  public Optional<Folder> byPath(Path path) {
    return all().stream().filter(f -> f.path().equals(path)).findFirst();
  }

  public Folder byUuid(UUID uuid) {
    return all().stream()
        .filter(f -> f.uuid().equals(uuid))
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("No such folder: " + uuid + "."));
  }

  /**
   * False if the marker is not there: the drive is away. A folder that is only looked into has
   * none; one that is empty is taken for the place where a drive will come back.
   */
  public boolean isHere(Folder place) {
    try {
      if (place.role() == FolderRole.PROGRAM && place.uuid().equals(placeholder(place.path()))) {
        return !disk.list(place.path()).isEmpty();
      }
      Optional<FolderMarker> marker = FolderMarker.read(disk, place.path());
      if (marker.isPresent() && place.uuid().equals(placeholder(place.path()))) {
        known(place.path(), marker.get().uuid(), place.role());
        return true;
      }
      return marker.filter(m -> m.uuid().equals(place.uuid())).isPresent();
    } catch (IOException unreadable) {
      return false;
    }
  }

  private static Folder seen(FolderRow row) {
    return new Folder(row.id, row.uuid, Path.of(row.path), row.role, row.node);
  }
}
