package dev.kavrin.server.parts;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.PartHistory;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.compare.PartLife;
import dev.kavrin.core.compare.PartLife.Form;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.picture.Sight;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionFiles.Inside;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Service;

/**
 * Which parts ever filled a spot of a picture. Boxes tell which may have; the files themselves tell
 * which did.
 */
@Service
class Spots {
  private static final int MOST_READ = 40;
  private static final int MOST_TRIED = 5;

  private final VersionFiles files;
  private final ReaderProcess reader;
  private final Disk disk;

  Spots(VersionFiles files, ReaderProcess reader, Disk disk) {
    this.files = files;
    this.reader = reader;
    this.disk = disk;
  }

  /**
   * @param last index of the newest state in which it filled the spot
   */
  record Filler(PartLife life, int last) {}

  /**
   * @param fillers latest first
   * @param all false if more states would have had to be read than are for one answer
   */
  record Found(List<Filler> fillers, boolean all) {}

  private record Candidate(PartLife life, Form form) {}

  /**
   * Looks through a spot of the small picture of a state.
   *
   * @param x from the left, 0 to 1
   * @param y from the top, 0 to 1
   * @throws ProblemException no copy of the state can be reached, or it shows nothing in space
   */
  Found at(UUID document, PartHistory history, int state, double x, double y) throws IOException {
    Sight sight = sight(document, history.sightings().get(state), x, y);
    List<Candidate> candidates = new ArrayList<>();
    for (PartLife life : history.lives()) {
      for (Form form : life.forms()) {
        if (form.part().bounds() != null && sight.meets(form.part().bounds())) {
          candidates.add(new Candidate(life, form));
        }
      }
    }
    candidates.sort(Comparator.comparingInt((Candidate c) -> c.form().to()).reversed());
    Map<String, Set<String>> met = new HashMap<>();
    Map<PartLife, Filler> fillers = new LinkedHashMap<>();
    boolean all = true;
    for (Candidate candidate : candidates) {
      if (fillers.containsKey(candidate.life())) {
        continue;
      }
      Optional<Inside> inside = reachable(document, history, candidate.form());
      if (inside.isEmpty() || met.size() >= MOST_READ && !met.containsKey(inside.get().content())) {
        all = false;
        continue;
      }
      if (!met.containsKey(inside.get().content())) {
        met.put(inside.get().content(), met(inside.get().content(), sight));
      }
      if (met.get(inside.get().content()).contains(inside.get().part())) {
        fillers.put(candidate.life(), new Filler(candidate.life(), candidate.form().to()));
      }
    }
    return new Found(List.copyOf(fillers.values()), all);
  }

  private Sight sight(UUID document, Sighting state, double x, double y) throws IOException {
    ContentId content = ContentId.parse(files.inside(document, state.state(), "").content());
    Path file =
        files
            .fileOf(content)
            .orElseThrow(
                () -> ProblemException.notFound("No copy of that version can be reached."));
    String name = files.nameOf(content, file);
    return unchanged(content, file, f -> Optional.ofNullable(reader.sight(f, name, x, y)))
        .orElseThrow(
            () ->
                ProblemException.badInput(
                    "nothing-in-space", "The picture of that version shows nothing in space."));
  }

  private Set<String> met(String id, Sight sight) throws IOException {
    ContentId content = ContentId.parse(id);
    Path file = files.fileOf(content).orElseThrow();
    String name = files.nameOf(content, file);
    return Set.copyOf(unchanged(content, file, f -> reader.met(f, name, sight)));
  }

  private <T> T unchanged(ContentId content, Path file, Unchanged.Reading<T> reading)
      throws IOException {
    return Unchanged.read(disk, file, content, reading)
        .orElseThrow(
            () ->
                ProblemException.conflict(
                    "written-meanwhile", "The file was written while it was read."));
  }

  /** Where the part lies in a state that has it so and can still be reached, the newest first. */
  private Optional<Inside> reachable(UUID document, PartHistory history, Form form) {
    for (int at = form.to(); at >= form.from() && at > form.to() - MOST_TRIED; at--) {
      Sighting sighting = history.sightings().get(at);
      if (!sighting.isGap()) {
        Inside inside = files.inside(document, sighting.state(), form.part().id());
        if (files.fileOf(ContentId.parse(inside.content())).isPresent()) {
          return Optional.of(inside);
        }
      }
    }
    return Optional.empty();
  }
}
