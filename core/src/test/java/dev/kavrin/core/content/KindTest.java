package dev.kavrin.core.content;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.health.Readers;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.junit.jupiter.api.Test;

/** What is told of the kinds of files is what is there, in the application and in the documents. */
class KindTest {
  @Test
  void eachEndingHasItsReaderAndOnlyTheLastKindHasNone() throws IOException {
    List<Kind> all = Kind.all();
    for (Kind kind : all) {
      for (String ending : kind.endings()) {
        try (SeekableByteChannel nothing = new SeekableInMemoryByteChannel(new byte[0])) {
          assertThat(Readers.of(nothing, "a." + ending)).as(ending).isPresent();
        }
      }
    }
    assertThat(all.subList(0, all.size() - 1)).allMatch(k -> !k.endings().isEmpty());
    assertThat(all.get(all.size() - 1).endings()).isEmpty();
    assertThat(all.stream().flatMap(k -> k.endings().stream())).doesNotHaveDuplicates();
  }

  @Test
  void theDocumentsSayTheSame() throws IOException {
    StringBuilder table =
        new StringBuilder(
            "| kind | endings | read | measured | shown | judged | one part brought back | written"
                + " | not read |\n|---|---|---|---|---|---|---|---|---|\n");
    for (Kind k : Kind.all()) {
      table
          .append("| ")
          .append(
              String.join(
                  " | ",
                  k.name(),
                  k.endings().isEmpty() ? "" : "`." + String.join(" .", k.endings()) + "`",
                  k.read(),
                  k.measured(),
                  k.shown(),
                  k.judged(),
                  k.byPart() ? "yes" : "no",
                  k.written(),
                  k.lacks().isEmpty() ? "" : k.lacks()))
          .append(" |\n");
    }
    assertThat(Files.readString(Path.of("../docs/formats.md"))).contains(table);
  }
}
