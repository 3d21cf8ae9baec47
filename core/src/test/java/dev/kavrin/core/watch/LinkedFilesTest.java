package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Files that documents lean on are copied with them, each content once. */
class LinkedFilesTest extends EngineFixture {
  @Test
  void whatADocumentLeansOnIsCopiedOnceAndStaysWhileItIsLeanedOn() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(2), Duration.ofMinutes(15)), "keep");
    Path picture = live.resolveSibling("pictures/oak.tga");
    write(picture, new byte[] {1, 2, 3});
    for (int n = 1; n <= 3; n++) {
      write(live, painted(n));
      pass(Duration.ofMinutes(12));
    }
    List<JournalEntry.DocumentSet> linked =
        recovery.history().documents(project.id()).stream()
            .filter(JournalEntry.DocumentSet::linked)
            .toList();
    assertThat(linked).singleElement().matches(d -> d.path().equals("pictures/oak.tga"));
    UUID oak = linked.get(0).id();
    assertThat(recovery.history().captures(oak)).as("each content once").hasSize(1);
    BackupRecord newest = captures().get(1);
    assertThat(recovery.history().leansOn(DOCUMENT, newest.state()))
        .singleElement()
        .matches(l -> l.content().equals(recovery.history().captures(oak).get(0).content()));
    for (int n = 4; n <= 8; n++) {
      write(picture, new byte[] {(byte) n});
      pass(Duration.ofMinutes(12));
    }
    assertThat(recovery.history().captures(oak))
        .as("the newest two, and the one that kept versions use")
        .hasSize(3)
        .anyMatch(c -> c.content().length() == 3);
  }

  /** One texture on a failing sector: the document goes on being copied, and its copies dropped. */
  @Test
  void aLinkedFileThatCannotBeReadStopsNothing() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(2), Duration.ofMinutes(15)), "keep");
    Path picture = live.resolveSibling("pictures").resolve("oak.tga");
    write(picture, new byte[] {1, 2, 3});
    Disk failing =
        new ForwardingDisk(disk) {
          @Override
          public SeekableByteChannel read(Path file) throws IOException {
            if (file.equals(picture)) {
              throw new IOException("Input/output error");
            }
            return super.read(file);
          }
        };
    Publisher careful = new Publisher(failing, "node");
    BackupMaker backups = new BackupMaker(failing, careful, health, recoveries, this);
    watch = new Watch(failing, recoveries, backups, keeper, words -> false, this, project);
    for (int n = 1; n <= 5; n++) {
      write(live, painted(n));
      pass(Duration.ofMinutes(12));
    }
    assertThat(captures()).as("kept by the plan").hasSize(2);
    assertThat(recovery.history().leansOn(DOCUMENT, captures().get(1).state()))
        .singleElement()
        .isEqualTo(new JournalEntry.Leaned("pictures/oak.tga", null));
  }

  private static byte[] painted(int n) {
    GlbWriter writer = new GlbWriter();
    writer.picturedMaterial("Oak", "pictures/oak.tga");
    return writer.bytes(Map.of("n", n));
  }

  @Test
  void aMissingLinkIsNotedAndOneThatLeadsOutIsLeftAlone() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(2), Duration.ofMinutes(15)), "keep");
    Files.write(root.resolve("secret.png"), new byte[] {9});
    GlbWriter writer = new GlbWriter();
    writer.picturedMaterial("Gone", "pictures/gone.png");
    writer.picturedMaterial("Out", "../secret.png");
    writer.picturedMaterial("Far", "https://example.com/far.png");
    write(live, writer.bytes(Map.of()));
    pass(Duration.ofMinutes(12));
    assertThat(captures()).hasSize(1);
    assertThat(recovery.history().leansOn(DOCUMENT, captures().get(0).state()))
        .singleElement()
        .isEqualTo(new JournalEntry.Leaned("pictures/gone.png", null));
    assertThat(recovery.history().documents(project.id())).hasSize(1);
  }
}
