package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.replica.ReplicaSync;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Hours set for a place hold back all work there, and what waited is made up for. */
class FolderHoursTest extends EngineFixture {
  private static FolderHours hours(String from, String to) {
    return new FolderHours(LocalTime.parse(from), LocalTime.parse(to), 0);
  }

  @Test
  void hoursMayLieOverMidnightAndFollowTheZoneThroughDaylightSaving() {
    ZoneId london = ZoneId.of("Europe/London");
    FolderHours night = hours("19:00", "07:00");
    assertThat(night.allows(Instant.parse("2031-03-03T20:00:00Z"), london)).isTrue();
    assertThat(night.allows(Instant.parse("2031-03-03T06:59:59Z"), london)).isTrue();
    assertThat(night.allows(Instant.parse("2031-03-03T07:00:00Z"), london)).isFalse();
    assertThat(night.allows(Instant.parse("2031-07-03T06:30:00Z"), london))
        .as("07:30 in summer time")
        .isFalse();
    assertThat(hours("09:00", "17:00").allows(Instant.parse("2031-03-03T17:00:00Z"), london))
        .isFalse();
    assertThat(FolderHours.ALWAYS.allows(Instant.EPOCH, london)).isTrue();
    assertThatThrownBy(() -> hours("09:00", "09:00")).hasMessageContaining("another end");
    assertThatThrownBy(() -> new FolderHours(null, null, 5)).hasMessageContaining("5 B/s");
  }

  @Test
  void outsideTheHoursOfItsPlaceNothingIsCopiedAndItIsMadeUpFor() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(9), Duration.ofMinutes(15)), "keep");
    boolean[] rests = {true};
    FolderHours.Rests work =
        place -> rests[0] && place.endsWith("work") ? Optional.of("it rests") : Optional.empty();
    watchWith(work);
    write(live, model(1));
    pass(Duration.ofHours(3));
    assertThat(captures()).isEmpty();
    assertThat(watch.standsBack()).contains("it rests");
    assertThat(watch.status().get(0).heldBy()).isEqualTo("it rests");
    rests[0] = false;
    pass(Duration.ofSeconds(30));
    assertThat(captures()).hasSize(1);
    assertThat(watch.status().get(0).heldBy()).isNull();
  }

  @Test
  void oneRecoveryFolderMayRestWhileTheOtherGoesOn() throws IOException {
    start(
        Plan.every(Duration.ofMinutes(10), Counts.newest(9), Duration.ofMinutes(15)),
        "keep",
        "shelf");
    boolean[] rests = {true};
    FolderHours.Rests shelf =
        place -> rests[0] && place.endsWith("shelf") ? Optional.of("it rests") : Optional.empty();
    watchWith(shelf);
    catchUp = new ReplicaSync(disk, publisher, recoveries, shelf, this);
    recoveries.standBack(folders.get(1), "it rests");
    write(live, model(1));
    pass(Duration.ofMinutes(30));
    assertThat(captures(0)).hasSize(1);
    assertThat(captures(1)).isEmpty();
    rests[0] = false;
    pass(Duration.ofMinutes(1));
    assertThat(captures(1)).hasSize(1);
  }

  @Test
  void outsideTheHoursWhatAProgramMayWriteIntoIsCopiedAtOnce() throws IOException {
    watchWith(place -> place.endsWith("work") ? Optional.of("it rests") : Optional.empty());
    Path drafts = live.resolveSibling(".drafts");
    crash(drafts);
    incidents.secure(project);
    assertThat(captures())
        .as("a second name does not guard against writing in place")
        .extracting(BackupRecord::sourceKind)
        .containsExactlyInAnyOrder(CopyKind.RESCUE, CopyKind.AUTOSAVE);
  }

  private void crash(Path drafts) throws IOException {
    write(live, model(1));
    programRuns = true;
    incidents.tick(project);
    write(live.resolveSibling(".carriage-02.open"), new byte[] {1});
    write(drafts.resolve("carriage-02~2.tmp"), model(9));
    write(drafts.resolve("carriage-02.rescue"), model(7));
    wait(Duration.ofSeconds(1));
    programRuns = false;
    assertThat(incidents.tick(project)).isPresent();
  }

  /** The last moment alive is forgotten only once it is written down. */
  @Test
  void aCrashThatCouldNotBeWrittenDownIsNoticedAgainWithItsLastMomentAlive() throws IOException {
    watchWith(FolderHours.Rests.NEVER);
    write(live, model(1));
    programRuns = true;
    incidents.tick(project);
    Instant alive = now;
    write(live.resolveSibling(".carriage-02.open"), new byte[] {1});
    wait(Duration.ofSeconds(1));
    programRuns = false;
    takeAway(0);
    assertThatThrownBy(() -> incidents.tick(project)).isInstanceOf(IOException.class);
    bringBack(0);
    wait(Duration.ofMinutes(3));
    assertThat(incidents.tick(project))
        .get()
        .satisfies(i -> assertThat(i.from()).isEqualTo(alive))
        .satisfies(i -> assertThat(i.kind()).isEqualTo("crash"));
  }

  @Test
  void outsideTheHoursWhatCouldBeClonedWaits() throws IOException {
    boolean[] rests = {true};
    FolderHours.Rests work =
        place -> rests[0] && place.endsWith("work") ? Optional.of("it rests") : Optional.empty();
    Disk cloning =
        new ForwardingDisk(disk) {
          @Override
          public boolean cloneTo(Path from, Path to) throws IOException {
            Files.copy(from, to);
            return true;
          }
        };
    Publisher cloner = new Publisher(cloning, "node");
    BackupMaker backups = new BackupMaker(disk, publisher, health, recoveries, this);
    incidents =
        new IncidentWatch(
            disk,
            recoveries,
            new RetainedLeftovers(disk, cloner, backups),
            health,
            words -> programRuns,
            work,
            Lanes.HERE,
            this);
    Path drafts = live.resolveSibling(".drafts");
    crash(drafts);
    incidents.secure(project);
    assertThat(captures()).isEmpty();
    write(drafts.resolve("carriage-02~2.tmp"), model(3));
    Files.delete(drafts.resolve("carriage-02.rescue"));
    wait(Duration.ofHours(9));
    rests[0] = false;
    incidents.secure(project);
    assertThat(captures())
        .extracting(BackupRecord::sourceKind)
        .containsExactlyInAnyOrder(CopyKind.RESCUE, CopyKind.AUTOSAVE);
  }

  @Test
  void aCrashOnlyItsFileCanTellIsNoticedWhenTheHoursBegin() throws IOException {
    boolean[] rests = {true};
    watchWith(place -> rests[0] ? Optional.of("it rests") : Optional.empty());
    programRuns = true;
    incidents.tick(project);
    write(live, Arrays.copyOf(model(1), 40));
    programRuns = false;
    assertThat(incidents.tick(project)).as("no file is read outside the hours").isEmpty();
    wait(Duration.ofHours(9));
    rests[0] = false;
    assertThat(incidents.tick(project).orElseThrow().kind()).isEqualTo("crash");
  }

  private void watchWith(FolderHours.Rests rests) {
    BackupMaker capturer = new BackupMaker(disk, publisher, health, recoveries, this);
    watch =
        new Watch(
            disk,
            recoveries,
            capturer,
            keeper,
            words -> programRuns,
            rests,
            Lanes.HERE,
            this,
            project);
    incidents = incidents(capturer, rests);
  }
}
