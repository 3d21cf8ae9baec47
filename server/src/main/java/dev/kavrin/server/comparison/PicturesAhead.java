package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.version.VersionFiles;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** Draws the small picture of every content that was read, while nobody waits for anything. */
@Component
class PicturesAhead {
  private static final Logger LOG = LoggerFactory.getLogger(PicturesAhead.class);
  private static final int LOOKED_AT = 200;

  private final VersionFiles files;
  private final Previews previews;
  private final Engine engine;
  private final Set<ContentId> tried = new HashSet<>();

  /** Contents are read newest first, so the end is followed by another beginning. */
  private long from;

  PicturesAhead(VersionFiles files, Previews previews, Engine engine) {
    this.files = files;
    this.previews = previews;
    this.engine = engine;
  }

  @Scheduled(fixedDelay = 1000, initialDelay = 8000)
  void drawNext() {
    if (engine.projects().stream().anyMatch(k -> k.watch().standsBack().isPresent())) {
      return;
    }
    try {
      List<VersionFiles.Read> some = files.readSince(from, LOOKED_AT);
      for (VersionFiles.Read read : some) {
        from = read.key();
        if (tried.add(read.content())) {
          draw(read.content());
          return;
        }
      }
      if (some.size() < LOOKED_AT) {
        from = 0;
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Pictures wait for the records: {}", away.getMessage());
    }
  }

  private void draw(ContentId content) {
    try {
      previews.picture(content, false);
    } catch (IOException | ProblemException undrawn) {
      LOG.debug("No picture of {}: {}", content, undrawn.getMessage());
    }
  }
}
