package dev.kavrin.core.retention;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.DiskRoomSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.retention.SharedRoom.Holding;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** The project's own limit, and that of the disk over all projects with backups on it. */
public final class DiskRooms implements RoomLimits {
  private final Disk disk;
  private final Supplier<List<Holding>> all;

  /**
   * @param all every project in each of its backup folders
   */
  public DiskRooms(Disk disk, Supplier<List<Holding>> all) {
    this.disk = disk;
    this.all = all;
  }

  @Override
  public List<SharedRoom> of(BackupFolders folders, BackupFolder folder, ProjectRecord project) {
    List<SharedRoom> rooms = new ArrayList<>(OF_PROJECT.of(folders, folder, project));
    if (all.get().stream().anyMatch(h -> DiskRoomSet.of(h.folder()) > 0)) {
      device(folder).flatMap(this::limited).ifPresent(rooms::add);
    }
    return rooms;
  }

  /** A disk with its limit; the smallest where its folders were told different ones. */
  public Optional<SharedRoom> limited(String device) {
    List<Holding> here = on(device);
    return here.stream()
        .map(h -> DiskRoomSet.of(h.folder()))
        .filter(bytes -> bytes > 0)
        .min(Long::compare)
        .map(bytes -> new SharedRoom(here, bytes));
  }

  /** All that has backups on a disk. */
  public List<Holding> on(String device) {
    return all.get().stream()
        .filter(h -> device(h.folder()).filter(device::equals).isPresent())
        .toList();
  }

  /** Empty for a folder that is away. */
  private Optional<String> device(BackupFolder folder) {
    try {
      return Optional.of(disk.device(folder.root()));
    } catch (IOException away) {
      return Optional.empty();
    }
  }
}
