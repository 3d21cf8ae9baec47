package dev.kavrin.core.retention;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.retention.SharedRoom.Holding;
import java.util.List;

/** Which limited room a project's versions in a backup folder share with others. */
public interface RoomLimits {
  /** None but what the project's own plan says: all its documents together, in each folder. */
  RoomLimits OF_PROJECT =
      (folders, folder, project) ->
          project.plan().projectRoom() == 0
              ? List.of()
              : List.of(
                  new SharedRoom(
                      List.of(new Holding(folders, folder, project)),
                      project.plan().projectRoom()));

  List<SharedRoom> of(BackupFolders folders, BackupFolder folder, ProjectRecord project);
}
