package dev.kavrin.server.offsite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.annex.AnnexProcess;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.offsite.OffsiteJournal;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.offsite.StoreMark;
import dev.kavrin.core.offsite.StoredObject;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.server.Patience;
import dev.kavrin.standin.Kills;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.apache.commons.codec.digest.DigestUtils;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The process that sends, and the one that brings back, killed at any moment. */
class KilledSendingTest {
  private static final int KILLS = Kills.of(10, 30, 100);
  private static final int DOCUMENTS = 6;
  private static final Instant WORK = Instant.parse("2031-03-03T09:00:00Z");

  /** Above it an object goes in parts. */
  private static final int LARGE = (int) Parts.WHOLE_UP_TO + 3_000_000;

  @TempDir Path root;
  private final RealDisk disk = new RealDisk();
  private final Publisher publisher = new Publisher(disk, Sending.NODE);
  private final Random random = new Random(20_310_504);
  private final Set<String> sha256 = new HashSet<>();
  private final Set<String> checked = new HashSet<>();
  private AnnexProcess annex;
  private Path data;
  private ProjectRecord project;
  private StoreAddress address;
  private int made;

  @BeforeEach
  void folderAndStore() throws IOException {
    annex = new AnnexProcess(Files.createDirectories(root.resolve("annex")));
    data = root.resolve("data");
    annex.giveKey(data);
    Path keep = folder("keep");
    project =
        ProjectRecord.of(
            new UUID(3, 3),
            "Carriage",
            "carriage",
            root.resolve("work").toString(),
            List.of("*.glb"),
            ProgramProfile.UNKNOWN,
            Plan.every(Duration.ofMinutes(10), Counts.newest(5000), Duration.ofMinutes(15)),
            List.of(keep.toString()),
            "UTC");
    BackupFolder folder = Sending.open(disk, keep);
    folder.record(new JournalEntry.ProjectSet(WORK, "Ilse Quarn", project));
    for (int n = 0; n < DOCUMENTS; n++) {
      folder.record(
          new JournalEntry.DocumentSet(
              WORK, new UUID(2, n), project.id(), "carriage-" + n + ".glb"));
    }
    address = address(UUID.randomUUID());
    try (Store store = store()) {
      address = address(StoreMark.ensure(store, WORK, null).id());
    }
    folder.record(new StoreSet(WORK, project.id(), "Ilse Quarn", address, true));
  }

  @AfterEach
  void stopStore() {
    annex.close();
  }

  private Path folder(String name) throws IOException {
    Path folder = Files.createDirectories(root.resolve(name));
    new FolderMarker(UUID.randomUUID(), "RECOVERY", Sending.NODE, WORK)
        .write(disk, publisher, folder);
    return folder;
  }

  private StoreAddress address(UUID id) {
    return new StoreAddress(
        id,
        "Annex",
        "s3://" + AnnexProcess.BUCKET,
        "carriage-0/",
        annex.address().toString(),
        null,
        "annex.key",
        null,
        null,
        null,
        null,
        null,
        0,
        false,
        null);
  }

  private Store store() throws IOException {
    return new Buckets(new KeyFiles(data)).open(address);
  }

  /** One more backup of one of the documents. */
  private void backup(int size) throws IOException {
    BackupFolder keep = Sending.open(disk, root.resolve("keep"));
    UUID document = new UUID(2, made % DOCUMENTS);
    String path = "carriage-" + made % DOCUMENTS + ".glb";
    Instant work = WORK.plusSeconds(60L * ++made);
    Path file = keep.nameFor(project, path, made, work);
    Files.createDirectories(file.getParent());
    byte[] bytes = new byte[size];
    random.nextBytes(bytes);
    Files.write(file, bytes);
    sha256.add(DigestUtils.sha256Hex(bytes));
    ContentId content = publisher.identify(file);
    BackupRecord record =
        new BackupRecord(
            document,
            CopyKind.CAPTURE,
            keep.relative(file),
            content.toString(),
            content,
            path,
            CopyKind.LIVE,
            work,
            work,
            made,
            "due",
            null,
            true,
            Verdict.INTACT,
            "",
            0,
            null,
            List.of());
    keep.record(new JournalEntry.Done(work, Operation.of(new Operation.Backup(record))));
  }

  private Process begun(String... what) throws IOException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-Xmx128m", "-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1", "-cp"));
    command.add(System.getProperty("java.class.path"));
    command.addAll(List.of(Sending.class.getName(), data.toString()));
    command.add(root.resolve("keep").toString());
    command.addAll(List.of(what));
    Process process =
        new ProcessBuilder(command).redirectError(root.resolve("sending.log").toFile()).start();
    assertThat(line(process)).as(() -> log()).isEqualTo("begun");
    return process;
  }

  private static String line(Process process) throws IOException {
    BufferedReader said = process.inputReader();
    return said.readLine();
  }

  private String log() {
    try {
      return Files.readString(root.resolve("sending.log"));
    } catch (IOException none) {
      return "no log";
    }
  }

  /** True if it was done before it could be killed. */
  private boolean killed(Process process, int most) throws Exception {
    boolean over = process.waitFor(1 + random.nextInt(most), TimeUnit.MILLISECONDS);
    process.destroyForcibly();
    assertThat(process.waitFor(Patience.LONG.toSeconds(), TimeUnit.SECONDS)).isTrue();
    return over;
  }

  private void ended(Process process) throws Exception {
    assertThat(line(process)).as(() -> log()).isEqualTo("done");
    assertThat(process.waitFor(Patience.LONG.toSeconds(), TimeUnit.SECONDS)).isTrue();
  }

  @Test
  void whatCountsIsThereAndNothingIsSentTwice() throws Exception {
    for (int kill = 0; kill < KILLS; kill++) {
      for (int n = 0; n < 8; n++) {
        backup(random.nextInt(1_500_000));
      }
      if (kill % 7 == 3) {
        backup(LARGE + random.nextInt(1000));
      }
      killed(begun("send"), 1200);
      check("kill " + kill);
    }
    ended(begun("send"));
    check("the end");
    assertThat(checked).hasSize(made);
    try (Store store = store()) {
      List<StoredObject> objects = store.list(address.begin() + "files/");
      assertThat(objects).hasSize(made);
    }
    back();
  }

  /** Whatever is said to be there is, byte for byte, and the journal there tells of it. */
  private void check(String when) throws IOException {
    BackupFolder keep = Sending.open(disk, root.resolve("keep"));
    Elsewhere elsewhere = new Elsewhere(keep.history());
    try (Store store = store()) {
      Set<String> told =
          OffsiteJournal.read(store, address.begin()).history().allCaptures().stream()
              .map(BackupRecord::path)
              .collect(Collectors.toSet());
      for (int n = 0; n < DOCUMENTS; n++) {
        for (CopyElsewhere copy : elsewhere.copies(new UUID(2, n))) {
          assertThat(copy.counts()).as("%s, %s", copy, when).isTrue();
          assertThat(told).as(when).contains(copy.object());
          if (checked.add(copy.object())) {
            try (InputStream in = store.get(address.begin() + copy.object())) {
              assertThat(DigestUtils.sha256Hex(in))
                  .as("%s, %s", copy, when)
                  .isEqualTo(copy.sha256());
            }
            assertThat(sha256).as(when).contains(copy.sha256());
          }
        }
      }
    }
  }

  /** Everything comes back, though whatever brings it is killed as often. */
  private void back() throws Exception {
    Path to = folder("back");
    int most = 900;
    for (int kill = 0; kill < KILLS; kill++) {
      killed(begun("bring", to.toString()), most);
      BackupFolder back = Sending.open(disk, to);
      new JournalRecovery(disk, publisher, back, Reach.EVERYWHERE, Clockwork.system()).settle();
      assertThat(back.history().undone()).as("kill " + kill).isEmpty();
      for (BackupRecord record : back.history().allCaptures()) {
        Path file = back.absolute(record.path());
        assertThat(publisher.identify(file))
            .as("%s, kill %s", file, kill)
            .isEqualTo(record.content());
      }
    }
    ended(begun("bring", to.toString()));
    BackupFolder back = Sending.open(disk, to);
    assertThat(back.history().allCaptures()).hasSize(made);
    Set<String> came = new HashSet<>();
    try (var all = Files.walk(to)) {
      for (Path file :
          all.filter(p -> p.toString().endsWith(".glb")).collect(Collectors.toList())) {
        try (InputStream in = Files.newInputStream(file)) {
          came.add(DigestUtils.sha256Hex(in));
        }
      }
    }
    assertThat(came).isEqualTo(sha256);
  }
}
