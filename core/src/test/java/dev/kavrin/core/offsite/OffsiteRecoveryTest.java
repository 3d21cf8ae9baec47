package dev.kavrin.core.offsite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.keep.Counts;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** From the store alone, or one version from it: what comes back is what was sent. */
class OffsiteRecoveryTest extends OffsiteFixture {
  @Test
  void aMachineThatIsLostComesBackFromTheStoreAlone() throws IOException {
    work(1, 3);
    rounds(1);
    wait(HOUR);
    rounds(1);
    Map<String, byte[]> before =
        captures().stream().collect(Collectors.toMap(b -> b.content().toString(), this::bytes));
    forget(root.resolve("keep"));
    forget(root.resolve("work"));

    List<OffsiteRecovery.Found> found = OffsiteRecovery.projects(store);
    assertThat(found).hasSize(1);
    assertThat(found.get(0).project().name()).isEqualTo("Carriage");
    assertThat(found.get(0).copies()).hasSize(3);
    Path keep = Files.createDirectories(root.resolve("new-keep"));
    UUID uuid = new UUID(9, 9);
    new FolderMarker(uuid, "RECOVERY", "other", now).write(disk, publisher, keep);
    BackupFolder to = BackupFolder.open(disk, keep, uuid, "other");
    OffsiteRecovery recovery = new OffsiteRecovery(disk, publisher, this);
    var as = found.get(0).project().movedTo(root.resolve("new-work").toString(), keep.toString());
    var outcome = recovery.bring(store, BEGIN, to, as, null, c -> {});
    assertThat(outcome.failed()).isEmpty();
    assertThat(outcome.brought()).hasSize(3);
    Map<String, byte[]> after =
        to.history().captures(DOCUMENT).stream()
            .collect(
                Collectors.toMap(b -> b.content().toString(), b -> read(to.absolute(b.path()))));
    assertThat(after.keySet()).isEqualTo(before.keySet());
    after.forEach((content, bytes) -> assertThat(bytes).isEqualTo(before.get(content)));
    assertThat(to.history().project(project.id()).orElseThrow().folder()).contains("new-work");
    assertThat(recovery.bring(store, BEGIN, to, as, null, c -> {}).brought()).isEmpty();
  }

  @Test
  void asOfAMomentNothingNewerComesBackAndWhatIsLostThereIsTold() throws IOException {
    work(1, 1);
    var until = now.minusSeconds(1);
    work(2, 2);
    rounds(2);
    Path keep = Files.createDirectories(root.resolve("new-keep"));
    UUID uuid = new UUID(9, 9);
    new FolderMarker(uuid, "RECOVERY", "other", now).write(disk, publisher, keep);
    BackupFolder to = BackupFolder.open(disk, keep, uuid, "other");
    var as = project.movedTo(root.resolve("new-work").toString(), keep.toString());
    OffsiteRecovery recovery = new OffsiteRecovery(disk, publisher, this);
    assertThat(recovery.bring(store, BEGIN, to, as, until, c -> {}).brought()).hasSize(1);
    store.objects.keySet().removeIf(k -> k.contains("/files/"));
    var outcome = recovery.bring(store, BEGIN, to, as, null, c -> {});
    assertThat(outcome.brought()).isEmpty();
    assertThat(outcome.failed()).hasSize(1);
    assertThat(to.history().captures(DOCUMENT)).hasSize(1);
    assertThat(Copying.identify(disk, to.absolute(to.history().captures(DOCUMENT).get(0).path())))
        .isEqualTo(captures().get(0).content());
  }

  @Test
  void whatOnlyTheStoreHasComesBackAmongTheOthersAndIsNotSentTwice() throws IOException {
    StoreAddress first = new Elsewhere(recoveries.history()).stores(project.id()).get(0);
    set(address(first.id(), Counts.newest(9)));
    for (int n = 1; n <= 5; n++) {
      work(n, n);
      rounds(1);
    }
    assertThat(captures()).hasSize(3);
    List<OnlyThere> there = sync.onlyThere(DOCUMENT);
    assertThat(there).hasSize(2).allMatch(v -> v.leaving() == null);
    OnlyThere oldest = there.get(1);
    assertThat(oldest.work()).isBefore(there.get(0).work());

    OffsiteRecovery bringing = new OffsiteRecovery(disk, publisher, this);
    BackupRecord wanted = oldest.backups().get(0);
    String object = wanted.path();
    bringing.bringOne(store, BEGIN, recovery, project, object);
    assertThat(sync.onlyThere(DOCUMENT)).containsExactly(there.get(0));
    BackupRecord back =
        captures().stream()
            .filter(b -> b.content().equals(wanted.content()))
            .findFirst()
            .orElseThrow();
    assertThat(bytes(back)).isEqualTo(model(1));
    assertThat(back.workTo()).isEqualTo(wanted.workTo());

    int puts = store.puts.size();
    bringing.bringOne(store, BEGIN, recovery, project, object);
    rounds(2);
    assertThat(captures()).hasSize(4);
    assertThat(store.puts.stream().skip(puts)).noneMatch(p -> p.contains("/files/"));
    assertThatThrownBy(() -> bringing.bringOne(store, BEGIN, recovery, project, "files/none.glb"))
        .isInstanceOf(NoSuchFileException.class);
  }

  @Test
  void whatWasReplacedInTheStoreIsNotTakenForTheVersion() throws IOException {
    work(1, 1);
    rounds(1);
    BackupRecord only = captures().get(0);
    String object = BEGIN + copies().get(0).object();
    store.objects.put(object, new byte[620]);
    forget(recovery.absolute(only.path()));
    keeper.reread(DOCUMENT, Set.of(only.state()));
    assertThatThrownBy(
            () ->
                new OffsiteRecovery(disk, publisher, this)
                    .bringOne(store, BEGIN, recovery, project, copies().get(0).object()))
        .hasMessageContaining("is not what was written");
    assertThat(captures()).as("nothing came").hasSizeLessThanOrEqualTo(1);
  }
}
