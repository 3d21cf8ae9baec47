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

/**
 * One line of a backup folder's journal. What was meant is written before it is done.
 *
 * <p>Longer than the house allows: all kinds of lines there are, on one page for whoever reads a
 * journal.
 */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "t")
@JsonSubTypes({
  @Type(value = JournalEntry.Begun.class, name = "begun"),
  @Type(value = JournalEntry.Done.class, name = "done"),
  @Type(value = JournalEntry.TakenBack.class, name = "taken-back"),
  @Type(value = JournalEntry.ProjectSet.class, name = "project"),
  @Type(value = JournalEntry.Left.class, name = "left"),
  @Type(value = JournalEntry.DocumentSet.class, name = "document"),
  @Type(value = JournalEntry.Written.class, name = "written"),
  @Type(value = JournalEntry.Judged.class, name = "judged"),
  @Type(value = JournalEntry.Reread.class, name = "reread"),
  @Type(value = JournalEntry.Marked.class, name = "marked"),
  @Type(value = JournalEntry.IncidentSet.class, name = "incident"),
  @Type(value = JournalEntry.Rehearsed.class, name = "rehearsed"),
  @Type(value = JournalEntry.Moment.class, name = "moment"),
  @Type(value = JournalEntry.SetTaken.class, name = "set"),
  @Type(value = JournalEntry.LinksSeen.class, name = "links"),
  @Type(value = JournalEntry.LayoutSet.class, name = "layout"),
  @Type(value = JournalEntry.SettingsPut.class, name = "settings"),
  @Type(value = JournalEntry.TieDecided.class, name = "tie"),
  @Type(value = JournalEntry.LossAsked.class, name = "loss"),
  @Type(value = JournalEntry.Watching.class, name = "watching"),
  @Type(value = ProgramSeen.class, name = "program"),
  @Type(value = LockFileSeen.class, name = "lock-file"),
  @Type(value = ProgramWrote.class, name = "wrote"),
  @Type(value = StoreSet.class, name = "store"),
  @Type(value = CopyElsewhere.class, name = "elsewhere"),
  @Type(value = CoverageSet.class, name = "coverage"),
  @Type(value = DiskRoomSet.class, name = "disk-room"),
  @Type(value = FirstRound.Captured.class, name = "captured"),
  @Type(value = FirstRound.Dropped.class, name = "dropped"),
  @Type(value = FirstRound.Returned.class, name = "returned"),
  @Type(value = FirstRound.Purged.class, name = "purged"),
  @Type(value = FirstRound.Cleared.class, name = "cleared"),
  @Type(value = FirstRound.Restored.class, name = "restored"),
  @Type(value = FirstRound.GroupMeant.class, name = "group"),
  @Type(value = FirstRound.GroupEnded.class, name = "group-ended"),
  @Type(value = FirstRound.Begun.class, name = "intent"),
  @Type(value = FirstRound.GivenUp.class, name = "abandoned")
})
public interface JournalEntry {
  /** When it was written. */
  Instant at();

  /** From now on the operation is finished or taken back, whatever happens. */
  record Begun(Instant at, Operation operation) implements JournalEntry {}

  /** It was done; the operation as it came out. */
  record Done(Instant at, Operation operation) implements JournalEntry {}

  /** It was not done: everything is as it was before. */
  record TakenBack(Instant at, UUID op, String why) implements JournalEntry {}

  /** A project with its plan, as of now; {@code who} set it. */
  record ProjectSet(Instant at, String who, ProjectRecord project) implements JournalEntry, Fact {
    @Override
    public UUID scope() {
      return project.id();
    }
  }

  /** A project's copies were moved out of this folder; it serves the project no longer. */
  record Left(Instant at, UUID project) implements JournalEntry {}

  /**
   * A document, by its path relative to the project folder.
   *
   * @param linked true if it joined because another leans on it
   */
  record DocumentSet(Instant at, UUID id, UUID project, String path, boolean linked)
      implements JournalEntry, Fact.OfProject {
    @Override
    public List<Object> key() {
      return List.of(id);
    }

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
      implements JournalEntry, Fact.OfDocument {
    @Override
    public List<Object> key() {
      return List.of(content, path);
    }
  }

  /** What a state leaned on when it was copied. */
  record LinksSeen(Instant at, UUID document, String state, List<Leaned> links)
      implements JournalEntry, Fact.OfDocument {
    @Override
    public List<Object> key() {
      return List.of(state);
    }
  }

  /**
   * @param path relative to the project folder
   * @param content null if it was missing or being written
   */
  record Leaned(String path, @Nullable ContentId content) {}

  /** The live file was seen written; content null until somebody read it. */
  record Written(Instant at, UUID document, Instant modified, long size, ContentId content)
      implements JournalEntry, Fact.OfDocument {}

  /** A copy was read again. */
  record Judged(Instant at, String path, Verdict verdict, String why) implements JournalEntry {}

  /** A copy was read again and is what was written. */
  record Reread(Instant at, String path) implements JournalEntry {}

  /** A mark such as "pinned" or "opened right" was put on a state or taken off. */
  record Marked(
      Instant at, UUID document, String state, String mark, boolean on, String who, String note)
      implements JournalEntry, Fact.OfDocument {
    @Override
    public List<Object> key() {
      return List.of(state, mark);
    }
  }

  /**
   * A crash, or a close with unsaved work.
   *
   * @param from last moment the program was known alive
   * @param to when its end was noticed
   * @param kind "crash", "reported", "closed", "asked", or "meant" once a person said that they
   *     closed it like that on purpose
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
      implements JournalEntry, Fact.OfProject {
    @Override
    public List<Object> key() {
      return List.of(id);
    }
  }

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
      @Nullable List<String> parts) {
    /** The same as it came out. */
    public Receipt as(
        String version, ContentId now, @Nullable ContentId before, Verdict health, String words) {
      return new Receipt(
          document,
          who,
          mode,
          version,
          source,
          target,
          aside,
          now,
          before,
          health,
          words,
          sourceKind,
          parts);
    }

    /** The same with nothing standing aside any more. */
    public Receipt withoutAside() {
      return new Receipt(
          document,
          who,
          mode,
          state,
          source,
          target,
          null,
          content,
          null,
          verdict,
          told,
          sourceKind,
          parts);
    }

    /** The same with other words to know. */
    public Receipt told(String words) {
      return new Receipt(
          document,
          who,
          mode,
          state,
          source,
          target,
          aside,
          content,
          former,
          verdict,
          words,
          sourceKind,
          parts);
    }
  }

  /**
   * A rehearsal: begun, or with its proof done.
   *
   * @param proof null while a person is at it
   */
  record Rehearsed(Instant at, UUID id, UUID document, String who, @Nullable Proof proof)
      implements JournalEntry, Fact.OfDocument {
    @Override
    public List<Object> key() {
      return List.of(id);
    }
  }

  /**
   * Documents of a project that were copied together, by one person's word.
   *
   * @param id shared by all projects the moment reaches over
   */
  record Moment(Instant at, UUID id, UUID project, String who, String note, List<AtMoment> held)
      implements JournalEntry, Fact.OfProject {
    @Override
    public List<Object> key() {
      return List.of(id);
    }
  }

  /** A document and the state of it that a copy holds. */
  record AtMoment(UUID document, String state) {}

  /** A step of a run was copied, all its files. */
  record SetTaken(Instant at, UUID document, SetRecord set)
      implements JournalEntry, Fact.OfDocument {
    @Override
    public List<Object> key() {
      return List.of(set.run(), set.step());
    }
  }

  /** A project's folder layout, as text. */
  record LayoutSet(Instant at, UUID project, String who, String text)
      implements JournalEntry, Fact.OfProject {}

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
      implements JournalEntry, Fact.OfProject {
    @Override
    public List<Object> key() {
      return List.of(op);
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
      implements JournalEntry, Fact.OfDocument {
    @Override
    public List<Object> key() {
      return List.of(after);
    }

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
