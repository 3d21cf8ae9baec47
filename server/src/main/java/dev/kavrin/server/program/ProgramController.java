package dev.kavrin.server.program;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.restore.ProgramSettings;
import dev.kavrin.core.settings.AskedSettings;
import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.core.settings.SettingsEntry;
import dev.kavrin.core.settings.SettingsGuess;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** A program's own settings: looked at, audited, put right, taken back. */
@RestController
class ProgramController {
  private static final int SHOWN = 300;

  private final ProjectService projects;
  private final FolderService places;
  private final ProgramAudits audits;
  private final Events events;

  ProgramController(
      ProjectService projects, FolderService places, ProgramAudits audits, Events events) {
    this.projects = projects;
    this.places = places;
    this.audits = audits;
    this.events = events;
  }

  /**
   * How a program's own safety stands.
   *
   * @param linked false if no settings file is known and nobody was asked
   * @param digest of the file as audited; sent back to put it right
   * @param mayPut true if its folder is a place in which settings may be written
   * @param onlyRead true if settings of that kind are never written: they are set in the program
   * @param lookedUp when a person found them in the program; null if a file tells them
   * @param updated when the program was updated after that, null if it was not
   * @param put the last correction, null if there was none or it was taken back
   */
  record ProgramView(
      boolean linked,
      @Nullable String file,
      @Nullable String problem,
      List<SettingsAudit.Line> lines,
      boolean off,
      @Nullable String digest,
      boolean mayPut,
      boolean onlyRead,
      boolean runs,
      @Nullable Instant lookedUp,
      @Nullable Instant updated,
      @Nullable SettingsPutView put) {}

  /**
   * @param done false if it was cut off by a stop: look at the file
   */
  record SettingsPutView(
      UUID op, Instant at, String who, String aside, Map<String, String> changes, boolean done) {}

  /** A settings file not linked yet. */
  record SettingsLookRequest(@NotNull SettingsLink link) {}

  /**
   * What stands in it.
   *
   * @param entries the first of them
   * @param guess what they seem to mean
   */
  record SettingsLook(String file, List<SettingsEntry> entries, SettingsGuess guess) {}

  /**
   * @param digest of the file as it was shown
   * @param insist true to write although the program runs
   */
  record PutRightRequest(@NotNull String digest, boolean insist) {}

  @GetMapping("/api/projects/{id}/program")
  ProgramView program(@PathVariable UUID id) {
    Kept kept = projects.kept(id);
    ProgramAudits.Standing standing = audits.of(kept).orElse(null);
    boolean runs = kept.incidents().programRuns(kept.project());
    if (standing == null) {
      return new ProgramView(
          false, null, null, List.of(), false, null, false, false, runs, null, null, last(kept));
    }
    SettingsAudit audit = standing.audit();
    SettingsLink link = kept.project().program().settings();
    AskedSettings asked = kept.project().program().asked();
    return new ProgramView(
        true,
        standing.file(),
        standing.problem(),
        audit == null ? List.of() : audit.lines(),
        audit != null && audit.isOff(),
        audit == null || link == null ? null : digest(kept),
        standing.file() != null && mayPut(Path.of(standing.file())),
        link == null || link.kind().isReadOnly(),
        runs,
        link == null && asked != null ? asked.at() : null,
        standing.updated(),
        last(kept));
  }

  @PostMapping("/api/programs/look")
  SettingsLook look(@Valid @RequestBody SettingsLookRequest request) {
    SettingsLink link = request.link();
    try {
      Path file = audits.file(link);
      ProgramSettings.Read read = audits.settings().read(link, file);
      return new SettingsLook(
          file.toString(),
          read.text().entries().stream().limit(SHOWN).toList(),
          SettingsGuess.of(read.text()));
    } catch (IOException | IllegalArgumentException unreadable) {
      throw unreadable(link, unreadable);
    }
  }

  /** The person allows the folder of the linked file as a place in which settings are written. */
  @PostMapping("/api/projects/{id}/program/allow")
  ProgramView allow(@PathVariable UUID id) throws IOException {
    Path file = audits.file(link(projects.kept(id)));
    Folder place = places.add(file.getParent().toString(), FolderRole.SETTINGS, null);
    if (place.role() != FolderRole.SETTINGS) {
      throw ProblemException.conflict(
          "other-role",
          place.path() + " already serves as another kind of folder. Nothing was changed.");
    }
    return program(id);
  }

  @PostMapping("/api/projects/{id}/program/right")
  ProgramView putRight(
      @PathVariable UUID id, @Valid @RequestBody PutRightRequest request, Principal person)
      throws IOException {
    Kept kept = projects.kept(id);
    SettingsLink link = link(kept);
    if (link.kind().isReadOnly()) {
      throw ProblemException.badInput(
          "settings-only-read",
          "Kavrin only reads settings of this kind: set them in "
              + kept.project().program().name()
              + ". Nothing was changed.");
    }
    Path file = audits.file(link);
    requireMay(kept, file, request.insist());
    try {
      ProgramSettings.Read read = audits.settings().read(link, file);
      if (!read.content().toString().equals(request.digest())) {
        throw ProblemException.conflict(
            "changed-meanwhile",
            file + " was changed meanwhile. Look at it again; nothing was changed now.");
      }
      Map<String, String> changes = SettingsAudit.of(link, read.text()).changes();
      audits.settings().put(kept.folders(), kept.project().id(), read, changes, person.getName());
    } catch (NoSuchFileException absent) {
      throw unreadable(link, absent);
    } catch (FileSystemException refused) {
      throw ProblemException.conflict(
          "not-written", refused.getFile() + ": " + refused.getReason() + ".");
    } catch (dev.kavrin.core.settings.SettingsException unfit) {
      throw unreadable(link, unfit);
    }
    events.changed("program");
    return program(id);
  }

  @PostMapping("/api/projects/{id}/program/undo")
  ProgramView undo(@PathVariable UUID id, Principal person) throws IOException {
    Kept kept = projects.kept(id);
    JournalEntry.SettingsPut put = lastPut(kept);
    if (put == null) {
      throw ProblemException.conflict("nothing-to-undo", "Nothing was put right here.");
    }
    audits.file(link(kept));
    audits.settings().undo(kept.folders(), put, person.getName());
    events.changed("program");
    return program(id);
  }

  private void requireMay(Kept kept, Path file, boolean insist) {
    if (!mayPut(file)) {
      throw ProblemException.forbidden(
          "no-settings-place",
          file.getParent()
              + " is not a folder in which Kavrin may write settings. Nothing was changed.");
    }
    if (Files.exists(file) && !Files.isWritable(file)) {
      throw ProblemException.forbidden(
          "read-only", file + " may not be written by Kavrin. Nothing was changed.");
    }
    if (!insist && kept.incidents().programRuns(kept.project())) {
      throw ProblemException.conflict(
          "program-runs",
          kept.project().program().name()
              + " runs and may write its settings when it closes. Close it first, or insist."
              + " Nothing was changed.");
    }
  }

  private boolean mayPut(Path file) {
    return places.all().stream()
        .anyMatch(
            p -> p.role() == FolderRole.SETTINGS && file.startsWith(p.path()) && places.isHere(p));
  }

  @Nullable
  private String digest(Kept kept) {
    try {
      SettingsLink link = link(kept);
      return audits.settings().read(link, audits.file(link)).content().toString();
    } catch (IOException unreadable) {
      return null;
    }
  }

  private static SettingsLink link(Kept kept) {
    SettingsLink link = kept.project().program().settings();
    if (link == null) {
      throw ProblemException.badInput(
          "no-settings", "No settings file is known for this program. Nothing was changed.");
    }
    return link;
  }

  @Nullable
  private static JournalEntry.SettingsPut lastPut(Kept kept) {
    List<JournalEntry.SettingsPut> all = kept.folder().history().settingsPut(kept.project().id());
    JournalEntry.SettingsPut last = all.isEmpty() ? null : all.get(all.size() - 1);
    return last == null || last.changes().isEmpty() ? null : last;
  }

  @Nullable
  private static SettingsPutView last(Kept kept) {
    JournalEntry.SettingsPut put = lastPut(kept);
    return put == null
        ? null
        : new SettingsPutView(
            put.op(), put.at(), put.who(), put.aside(), put.changes(), put.done());
  }

  private static ProblemException unreadable(SettingsLink link, Exception why) {
    return ProblemException.badInput(
        "unreadable-settings",
        why instanceof NoSuchFileException
            ? link.file() + " is not there. Nothing was touched."
            : why.getMessage() + ". Nothing was touched.");
  }
}
