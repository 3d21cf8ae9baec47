package dev.kavrin.core.journal;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonSubTypes.Type;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/** One line of a recovery folder's journal. What was meant is written before it is done. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "t")
@JsonSubTypes({
  @Type(value = JournalEntry.ProjectSet.class, name = "project"),
  @Type(value = JournalEntry.DocumentSet.class, name = "document"),
  @Type(value = JournalEntry.Written.class, name = "written"),
  @Type(value = JournalEntry.Intent.class, name = "intent"),
  @Type(value = JournalEntry.Abandoned.class, name = "abandoned"),
  @Type(value = JournalEntry.Captured.class, name = "captured"),
  @Type(value = JournalEntry.Dropped.class, name = "dropped"),
  @Type(value = JournalEntry.Returned.class, name = "returned"),
  @Type(value = JournalEntry.Purged.class, name = "purged"),
  @Type(value = JournalEntry.Cleared.class, name = "cleared"),
  @Type(value = JournalEntry.Judged.class, name = "judged"),
  @Type(value = JournalEntry.Reread.class, name = "reread"),
  @Type(value = JournalEntry.Marked.class, name = "marked"),
  @Type(value = JournalEntry.IncidentSet.class, name = "incident"),
  @Type(value = JournalEntry.Restored.class, name = "restored"),
  @Type(value = JournalEntry.GroupMeant.class, name = "group"),
  @Type(value = JournalEntry.GroupEnded.class, name = "group-ended"),
  @Type(value = JournalEntry.Rehearsed.class, name = "rehearsed"),
  @Type(value = JournalEntry.Moment.class, name = "moment"),
  @Type(value = JournalEntry.SetTaken.class, name = "set"),
  @Type(value = JournalEntry.LinksSeen.class, name = "links"),
  @Type(value = JournalEntry.LayoutSet.class, name = "layout"),
  @Type(value = JournalEntry.SettingsPut.class, name = "settings"),
  @Type(value = JournalEntry.Left.class, name = "left"),
  @Type(value = JournalEntry.TieDecided.class, name = "tie"),
  @Type(value = JournalEntry.LossAsked.class, name = "loss"),
  @Type(value = JournalEntry.Watching.class, name = "watching")
})
public sealed interface JournalEntry {
  /** When it was written. */
  Instant at();

  /** A project with its plan, as of now; {@code who} set it. */
  record ProjectSet(Instant at, String who, ProjectRecord project) implements JournalEntry {}

  /** A project's copies were moved out of this folder; it serves the project no longer. */
  record Left(Instant at, UUID project) implements JournalEntry {}

  /**
   * A document, by its path relative to the project folder.
   *
   * @param linked true if it joined because another leans on it
   */
  record DocumentSet(Instant at, UUID id, UUID project, String path, boolean linked)
      implements JournalEntry {
    public DocumentSet(Instant at, UUID id, UUID project, String path) {
      this(at, id, project, path, false);
    }
  }

  /**
   * A person said whether a content found elsewhere belongs to a document.
   *
   * @param path where it was found
   */
  record TieDecided(
      Instant at, UUID document, ContentId content, String path, boolean accepted, String who)
      implements JournalEntry {}

  /** What a state leaned on when it was copied. */
  record LinksSeen(Instant at, UUID document, String state, List<Leaned> links)
      implements JournalEntry {}

  /**
   * @param path relative to the project folder
   * @param content null if it was missing or being written
   */
  record Leaned(String path, @Nullable ContentId content) {}

  /** The live file was seen written; content null until somebody read it. */
  record Written(Instant at, UUID document, Instant modified, long size, ContentId content)
      implements JournalEntry {}

  /** What an intent is about. */
  enum Deed {
    CAPTURE,
    SECURE,
    DROP,
    RETURN,
    PURGE,
    /** Takes away a program's own leftover that a copy holds. */
    CLEAR,
    RESTORE,
    UNDO
  }

  /**
   * Something is about to be done.
   *
   * @param from file it starts from; relative to the recovery folder if ours, else absolute
   * @param to file it makes
   * @param aside where the file it replaces will stand, or null
   */
  record Intent(Instant at, UUID op, Deed deed, UUID document, String from, String to, String aside)
      implements JournalEntry {}

  record Abandoned(Instant at, UUID op, String why) implements JournalEntry {}

  record Captured(Instant at, UUID op, BackupRecord capture) implements JournalEntry {}

  /** A copy went to the bin. */
  record Dropped(Instant at, UUID op, String path, String bin, String why)
      implements JournalEntry {}

  /** A copy came back from the bin. */
  record Returned(Instant at, UUID op, String bin, String path) implements JournalEntry {}

  record Purged(Instant at, UUID op, String bin) implements JournalEntry {}

  /**
   * A program's own leftover was taken away on a person's word.
   *
   * @param copy which holds its bytes, relative to the recovery folder
   */
  record Cleared(Instant at, UUID op, String path, String copy) implements JournalEntry {}

  /** A copy was read again. */
  record Judged(Instant at, String path, Verdict verdict, String why) implements JournalEntry {}

  /** A copy was read again and is what was written. */
  record Reread(Instant at, String path) implements JournalEntry {}

  /** A mark such as "pinned" or "opened right" was put on a state or taken off. */
  record Marked(
      Instant at, UUID document, String state, String mark, boolean on, String who, String note)
      implements JournalEntry {}

  /**
   * A crash, or a close with unsaved work.
   *
   * @param from last moment the program was known alive
   * @param to when its end was noticed
   * @param kind "crash", "reported", "closed", or "meant" once a person said that they closed it
   *     like that on purpose
   * @param evidence what spoke for it, in words
   */
  record IncidentSet(
      Instant at,
      UUID id,
      UUID project,
      List<UUID> documents,
      Instant from,
      Instant to,
      String kind,
      List<String> evidence,
      boolean open)
      implements JournalEntry {}

  /** A restore or its undoing is done. */
  record Restored(Instant at, UUID op, Receipt receipt) implements JournalEntry {}

  /**
   * The proof of a restore.
   *
   * @param mode "replace", "beside", "next", "branch", "undo"
   * @param source where the bytes came from
   * @param target the file that now holds them
   * @param aside where the former file stands, or null
   * @param content what stands at the target, read back
   * @param former what stood there before, or null
   * @param told anything the person should know
   * @param parts what was brought into the file, in words; null if all of it was restored
   */
  record Receipt(
      UUID document,
      String who,
      String mode,
      String state,
      String source,
      String target,
      @Nullable String aside,
      ContentId content,
      @Nullable ContentId former,
      Verdict verdict,
      String told,
      CopyKind sourceKind,
      @Nullable List<String> parts) {}

  /**
   * Several restores that are one: all are done or none.
   *
   * @param ops of the restores, in order; those that were done have receipts
   * @param what in words, for the record
   * @param undoes the group that this takes back, null if none
   */
  record GroupMeant(
      Instant at,
      UUID group,
      UUID project,
      String who,
      String what,
      List<UUID> ops,
      @Nullable UUID undoes)
      implements JournalEntry {}

  /**
   * How it ended.
   *
   * @param done false if everything is as it was before
   * @param told why, or anything else to know; empty if there is nothing
   */
  record GroupEnded(Instant at, UUID group, boolean done, String told) implements JournalEntry {}

  /**
   * A rehearsal: begun, or with its proof done.
   *
   * @param proof null while a person is at it
   */
  record Rehearsed(Instant at, UUID id, UUID document, String who, @Nullable Proof proof)
      implements JournalEntry {}

  /**
   * Documents of a project that were copied together, by one person's word.
   *
   * @param id shared by all projects the moment reaches over
   */
  record Moment(Instant at, UUID id, UUID project, String who, String note, List<Held> held)
      implements JournalEntry {}

  /** A document and the state of it that a copy holds. */
  record Held(UUID document, String state) {}

  /** A step of a run was copied, all its files. */
  record SetTaken(Instant at, UUID document, SetRecord set) implements JournalEntry {}

  /** A project's folder layout, as text. */
  record LayoutSet(Instant at, UUID project, String who, String text) implements JournalEntry {}

  /**
   * A program's own settings file was corrected, or that was taken back.
   *
   * @param file which
   * @param aside where the former file stands
   * @param changes new values by key; none if it was taken back
   * @param done false while it is only meant
   */
  record SettingsPut(
      Instant at,
      UUID op,
      UUID project,
      String who,
      String file,
      String aside,
      Map<String, String> changes,
      boolean done)
      implements JournalEntry {
    public SettingsPut asDone(Instant now) {
      return new SettingsPut(now, op, project, who, file, aside, changes, true);
    }
  }

  /**
   * A save took away what is hardly taken away on purpose; or a person answered, or nobody did in
   * time.
   *
   * @param before state that has what went; kept until there is an answer
   * @param after state that lacks it
   * @param losses in words
   * @param parts ids of what went, in the state before, the largest first
   * @param until when the state before is no longer kept for this
   * @param answer "meant", "not today" or "expired"; null while it is open
   */
  record LossAsked(
      Instant at,
      UUID document,
      String before,
      String after,
      List<String> losses,
      List<String> parts,
      Instant until,
      @Nullable String answer,
      @Nullable String who)
      implements JournalEntry {
    public boolean isOpen() {
      return answer == null;
    }

    /** The same, answered. */
    public LossAsked answered(Instant now, String what, @Nullable String by) {
      return new LossAsked(now, document, before, after, losses, parts, until, what, by);
    }
  }

  /** Kavrin began to watch, or still does; a span without these was watched by nobody. */
  record Watching(Instant at, Instant since) implements JournalEntry {}
}
