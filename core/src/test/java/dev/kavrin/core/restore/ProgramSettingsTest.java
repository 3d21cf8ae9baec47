package dev.kavrin.core.restore;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.settings.Meaning;
import dev.kavrin.core.settings.SettingsException;
import dev.kavrin.core.settings.SettingsKind;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Correcting a program's settings never loses the former file, on real files. */
class ProgramSettingsTest extends EngineFixture {
  private static final String TEXT = "# ours\r\nsafety.copies = false\r\n";
  private final ProgramSettings settings = new ProgramSettings(disk, publisher, this);
  private Path file;
  private SettingsLink link;

  @BeforeEach
  void put() throws IOException {
    file = root.resolve("modeller.properties");
    write(file, TEXT.getBytes(UTF_8));
    link =
        new SettingsLink(
            file.toString(),
            SettingsKind.PROPERTIES,
            "",
            Map.of(Meaning.ENABLED, "safety.copies"),
            null,
            null);
  }

  private JournalEntry.SettingsPut correct(ProgramSettings.Read shown) throws IOException {
    return settings.put(
        recoveries, project.id(), shown, Map.of("safety.copies", "true"), "Ilse Quarn");
  }

  @Test
  void whatIsPutRightStandsAsideAndIsTakenBackAndAgain() throws IOException {
    JournalEntry.SettingsPut put = correct(settings.read(link, file));
    assertThat(file).hasContent(TEXT.replace("false", "true"));
    assertThat(Path.of(put.aside())).hasContent(TEXT);
    open();
    assertThat(recovery.history().settingsPut(project.id())).containsExactly(put);
    JournalEntry.SettingsPut undone = settings.undo(recoveries, put, "Ilse Quarn");
    assertThat(file).hasContent(TEXT);
    assertThat(Path.of(undone.aside())).hasContent(TEXT.replace("false", "true"));
    assertThat(Path.of(put.aside())).as("the same bytes are live again").doesNotExist();
    assertThat(recovery.history().settingsPut(project.id())).hasSize(2).allMatch(s -> s.done());
  }

  @Test
  void aFileChangedMeanwhileIsLeftAsItIs() throws IOException {
    ProgramSettings.Read shown = settings.read(link, file);
    write(file, (TEXT + "mine=1\r\n").getBytes(UTF_8));
    assertThatThrownBy(() -> correct(shown)).hasMessageContaining("changed meanwhile");
    assertThat(file).hasContent(TEXT + "mine=1\r\n");
    assertThat(recovery.history().settingsPut(project.id())).isEmpty();
  }

  @Test
  void aFileThatMayNotBeWrittenOrIsNoneIsRefused() throws IOException {
    Path linked = Files.createSymbolicLink(root.resolve("linked.properties"), file);
    assertThatThrownBy(() -> settings.read(link, linked)).hasMessageContaining("no plain file");
    assertThatThrownBy(() -> settings.read(link, root.resolve("gone")))
        .isInstanceOf(NoSuchFileException.class);
    try (RandomAccessFile large = new RandomAccessFile(root.resolve("large").toFile(), "rw")) {
      large.setLength(64_000_001);
    }
    assertThatThrownBy(() -> settings.read(link, root.resolve("large")))
        .isInstanceOf(SettingsException.class)
        .hasMessageContaining("larger than 64 MB");
    assertThat(file).hasContent(TEXT);
  }

  @Test
  void aWriteInTheVeryMomentOfTheExchangeIsPutBack() throws IOException {
    AtomicBoolean once = new AtomicBoolean(true);
    Disk late =
        (Disk)
            Proxy.newProxyInstance(
                Disk.class.getClassLoader(),
                new Class<?>[] {Disk.class},
                (proxy, method, arguments) -> {
                  if (method.getName().equals("exchange") && once.getAndSet(false)) {
                    write(file, "late".getBytes(UTF_8));
                  }
                  try {
                    return method.invoke(disk, arguments);
                  } catch (InvocationTargetException failed) {
                    throw failed.getCause();
                  }
                });
    ProgramSettings racing = new ProgramSettings(late, new Publisher(late, "node"), this);
    ProgramSettings.Read shown = racing.read(link, file);
    assertThatThrownBy(
            () ->
                racing.put(
                    recoveries, project.id(), shown, Map.of("safety.copies", "true"), "Ilse"))
        .hasMessageContaining("changed meanwhile");
    assertThat(file).hasContent("late");
  }
}
