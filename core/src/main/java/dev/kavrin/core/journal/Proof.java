package dev.kavrin.core.journal;

import dev.kavrin.core.health.Verdict;
import jakarta.annotation.Nullable;
import java.time.Duration;

/**
 * What came of a rehearsal.
 *
 * @param by "stand-in", "own program" or "unattended"
 * @param way in words
 * @param plan digest of the plan it was under
 * @param promised worst loss the plan promises, null if it cannot
 * @param predicted loss at that very moment by replay, null if nothing was predicted
 * @param actual work lost with the copy that was recommended and restored; null if nothing came
 *     back
 * @param parts parts that differ from the truth, null if the kind has none that can be read
 * @param from where the restored copy lay; of a drill its kind, and its path in the scratch folder
 * @param verdict of what was restored
 * @param held true if what came back is whole, is what it was, and is within what was promised
 * @param told in words
 * @param took real time from the crash to the restored file
 */
public record Proof(
    String by,
    String way,
    String plan,
    @Nullable Duration promised,
    @Nullable Duration predicted,
    @Nullable Duration actual,
    @Nullable Integer parts,
    @Nullable String from,
    Verdict verdict,
    boolean held,
    String told,
    Duration took) {}
