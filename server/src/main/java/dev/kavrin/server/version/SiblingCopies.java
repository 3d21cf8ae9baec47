package dev.kavrin.server.version;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Siblings;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.Document;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What the other copies of a document look like from outside. */
@Component
class SiblingCopies {
  private static final int HEAD = 16;
  private static final int LOOKED_AT = 8;

  private final VersionRows.Copies copies;
  private final ReadContents contents;
  private final FolderService places;
  private final Disk disk;

  SiblingCopies(
      VersionRows.Copies copies, ReadContents contents, FolderService places, Engine engine) {
    this.copies = copies;
    this.contents = contents;
    this.places = places;
    this.disk = engine.disk();
  }

  /** How a file looks itself. */
  Siblings.Looks looks(Path file, HealthReport report) throws IOException {
    try (SeekableByteChannel in = disk.read(file)) {
      return Siblings.Looks.of(in.size(), Bytes.head(in, HEAD).array(), report);
    }
  }

  /** The last few others that nobody doubts, oldest first. */
  List<Siblings.Looks> of(Document document, Path apart) {
    List<CopyRow> rows =
        copies.findByDocumentIdInAndGoneIsNull(List.of(document.key())).stream()
            .filter(CopyRow::isFull)
            .sorted(Comparator.comparingLong((CopyRow c) -> c.modified).reversed())
            .toList();
    List<Siblings.Looks> found = new ArrayList<>();
    var facts = contents.facts(rows.stream().limit(4L * LOOKED_AT).map(c -> c.contentId).toList());
    for (CopyRow row : rows) {
      ReadContents.Facts known = facts.get(row.contentId);
      Path file = places.byKey(row.placeId).map(p -> p.path().resolve(row.relPath)).orElse(apart);
      if (found.size() < LOOKED_AT
          && known != null
          && known.verdict().equals("NO_FAULT")
          && !file.equals(apart)) {
        head(file)
            .ifPresent(
                head ->
                    found.add(
                        0,
                        new Siblings.Looks(
                            known.length(),
                            head,
                            known.findings().stream()
                                .anyMatch(f -> f.code().equals(Siblings.HOLE)))));
      }
    }
    return found;
  }

  private Optional<byte[]> head(Path file) {
    try (SeekableByteChannel in = disk.read(file)) {
      return Optional.of(Bytes.head(in, HEAD).array());
    } catch (IOException away) {
      return Optional.empty();
    }
  }
}
