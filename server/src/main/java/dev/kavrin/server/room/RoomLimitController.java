package dev.kavrin.server.room;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.DiskRoomSet;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.retention.DiskRooms;
import dev.kavrin.core.retention.SharedRoom;
import dev.kavrin.core.retention.SharedRoom.Going;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.PositiveOrZero;
import java.io.IOException;
import java.security.Principal;
import java.time.InstantSource;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What all backups on a disk may take together: shown first, then held. */
@RestController
class RoomLimitController implements JobKinds {
  private final Engine engine;
  private final JournalFollower follower;
  private final JobService jobs;
  private final InstantSource clock;
  private final DiskRooms rooms;
  private final JobKind<LimitConfirm> holding =
      JobKind.once("hold-room", Lane.ASKED, LimitConfirm.class, this::hold);

  RoomLimitController(
      Engine engine, JournalFollower follower, JobService jobs, InstantSource clock) {
    this.engine = engine;
    this.follower = follower;
    this.jobs = jobs;
    this.clock = clock;
    this.rooms = Kept.rooms(engine.disk(), engine::projects);
  }

  /**
   * @param disk as it is named in the list
   * @param bytes zero for no limit
   */
  record LimitRequest(@NotBlank String disk, @PositiveOrZero long bytes) {}

  /**
   * @param digest of what was shown
   */
  record LimitConfirm(@NotBlank String disk, @PositiveOrZero long bytes, @NotBlank String digest) {}

  /**
   * What a limit comes to.
   *
   * @param taken bytes the backups take now, those in the bins included
   * @param drops versions that go into the bin
   * @param dropBytes that they take
   * @param stays bytes of those that stay: past the limit where nothing more may go
   */
  record LimitView(long taken, int drops, long dropBytes, long stays, String digest) {}

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(holding);
  }

  @PostMapping("/api/room/limit/preview")
  LimitView previewLimit(@Valid @RequestBody LimitRequest request) {
    return view(room(request.disk(), request.bytes()));
  }

  @PutMapping("/api/room/limit")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job setLimit(@Valid @RequestBody LimitConfirm request, Principal who) {
    room(request.disk(), request.bytes());
    return jobs.begin(holding, request.disk(), request, who.getName());
  }

  private SharedRoom room(String disk, long bytes) {
    List<SharedRoom.Holding> here = rooms.on(disk);
    if (here.isEmpty()) {
      throw ProblemException.badInput(
          "no-disk", "No backup folder that is here lies on " + disk + ".");
    }
    return new SharedRoom(here, bytes);
  }

  private LimitView view(SharedRoom room) {
    List<Going> beyond = room.bytes() == 0 ? List.of() : room.going(clock.instant());
    StringBuilder told = new StringBuilder().append(room.bytes());
    beyond.forEach(g -> told.append(g.document()).append(g.states().stream().sorted().toList()));
    long going = beyond.stream().mapToLong(Going::bytes).sum();
    return new LimitView(
        room.taken(),
        beyond.stream().mapToInt(g -> g.states().size()).sum(),
        going,
        room.kept() - going,
        ContentHash.of(told.toString()).digest());
  }

  private LimitView hold(LimitConfirm request, JobRun job) throws IOException {
    SharedRoom room = room(request.disk(), request.bytes());
    LimitView shown = view(room);
    if (!shown.digest().equals(request.digest())) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Backups came or went meanwhile. Look at it again; nothing was dropped, and the limit is"
              + " what it was.");
    }
    for (BackupFolder folder : room.folders()) {
      folder.record(new DiskRoomSet(clock.instant(), folder.uuid(), job.person(), request.bytes()));
    }
    if (room.bytes() > 0) {
      engine.projects().iterator().next().retention().fit(room);
    }
    follower.follow();
    return shown;
  }
}
