package dev.kavrin.core.journal;

import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * A project's program was seen alive. The last line of a span says how far it reaches.
 *
 * @param at last moment it was known alive
 * @param from when the span began
 * @param to last moment at which it was at work
 * @param boot of the machine, empty where the host does not tell
 * @param ended true if its end was noticed
 * @param instances that were alive, each with what it had open
 * @param left true if Kavrin stopped watching in order while it was alive
 */
public record ProgramSeen(
    Instant at,
    UUID project,
    Instant from,
    Instant to,
    String boot,
    boolean ended,
    List<Ran> instances,
    boolean left)
    implements JournalEntry, Fact.OfProject {
  public ProgramSeen {
    instances = instances == null ? List.of() : List.copyOf(instances);
  }

  /**
   * One instance.
   *
   * @param started told with its number, so that a number given again is another instance
   * @param open documents it had open, or may have had
   */
  public record Ran(String machine, long pid, Instant started, String user, List<UUID> open) {}

  /** The first line of a span. */
  public static ProgramSeen begun(Instant now, UUID project, String boot) {
    return new ProgramSeen(now, project, now, now, boot, false, List.of(), false);
  }

  @Override
  public List<Object> key() {
    return List.of(from);
  }

  /** Alive still, and idle. */
  public ProgramSeen alive(Instant now) {
    return new ProgramSeen(now, project, from, to, boot, false, instances, false);
  }

  /** Alive still, and at work. */
  public ProgramSeen atWork(Instant now) {
    return new ProgramSeen(now, project, from, now, boot, false, instances, false);
  }

  /** A new span of the same program, at work again since. */
  public ProgramSeen anew(Instant now) {
    return new ProgramSeen(now, project, at, now, boot, false, instances, false);
  }

  /** The same moment, with what its instances have open. */
  public ProgramSeen having(List<Ran> ran) {
    return new ProgramSeen(at, project, from, to, boot, ended, ran, false);
  }

  /** Alive no more. */
  public ProgramSeen over(Instant now) {
    return new ProgramSeen(now, project, from, to, boot, true, List.of(), false);
  }

  /** Nobody watches it from now on. */
  public ProgramSeen leaving(Instant now) {
    return new ProgramSeen(now, project, from, to, boot, ended, instances, true);
  }
}
