package dev.kavrin.core.backup;

import dev.kavrin.core.content.Reducer;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Span;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.util.UUID;

/**
 * What to copy.
 *
 * @param documentPath relative to the project folder
 * @param source where to read the bytes
 * @param origin where they were found; the same unless they are held under a second name
 * @param work when the work was done; null takes the file's last write
 * @param cause why, in a word or two
 * @param note a person's words, or null
 * @param role what it is in its run; null for the document's main file
 */
public record BackupOrder(
    ProjectRecord project,
    UUID document,
    String documentPath,
    Path source,
    Path origin,
    CopyKind sourceKind,
    CopyKind kind,
    @Nullable Span work,
    String cause,
    @Nullable String note,
    @Nullable Role role,
    How how) {
  /** Cause of a copy of the whole lines so far. */
  static final String GROWING = "while it grows";

  /**
   * With what care.
   *
   * @param anyHealth true to copy a damaged file too
   * @param evenMoving true to copy a file that is being written; the copy is then unsettled
   * @param growing true to copy the whole lines so far of a file that only ever grows
   * @param again true to write a copy even of bytes that are held already
   * @param reducer leaves something out, null for a full copy
   */
  public record How(
      boolean anyHealth,
      boolean evenMoving,
      boolean growing,
      boolean again,
      @Nullable Reducer reducer) {
    /** Only what is whole and at rest. */
    public static final How CAREFULLY = new How(false, false, false, false, null);

    /** Damaged too, but at rest. */
    public static final How ANY_HEALTH = new How(true, false, false, false, null);

    /** Whatever is there. */
    public static final How ANYTHING = new How(true, true, false, false, null);

    /** Even while it is written, if it is not damaged. */
    public static final How EVEN_MOVING = new How(false, true, false, false, null);
  }

  private BackupOrder(ProjectRecord project, UUID document, Path file, String cause, How how) {
    this(
        project,
        document,
        RelativePath.of(project.folder(), file),
        file,
        file,
        CopyKind.LIVE,
        CopyKind.CAPTURE,
        null,
        cause,
        null,
        null,
        how);
  }

  /** A copy of the live file as it is. */
  public static BackupOrder ofLive(
      ProjectRecord project, UUID document, Path live, String cause, How how) {
    return new BackupOrder(project, document, live, cause, how);
  }

  /** Of a file that only ever grows, its whole lines so far. */
  public static BackupOrder ofGrowing(ProjectRecord project, UUID document, Path live) {
    return new BackupOrder(
        project, document, live, GROWING, new How(false, false, true, false, null));
  }

  /** Of the live file, with something left out. */
  public static BackupOrder ofLight(ProjectRecord project, UUID document, Path live, Reducer by) {
    return new BackupOrder(project, document, live, "due", new How(false, false, false, false, by));
  }

  /** A copy of one file of a run, whatever its health. */
  static BackupOrder ofMember(
      ProjectRecord project, UUID document, Path file, Role role, String cause, boolean again) {
    How how = new How(true, false, false, again, null);
    return new BackupOrder(project, document, file, cause, how)
        .with(role == Role.SETUP && !again ? null : role, null);
  }

  public BackupOrder noted(@Nullable String words) {
    return with(role, words);
  }

  private BackupOrder with(@Nullable Role as, @Nullable String words) {
    return new BackupOrder(
        project,
        document,
        documentPath,
        source,
        origin,
        sourceKind,
        kind,
        work,
        cause,
        words,
        as,
        how);
  }
}
