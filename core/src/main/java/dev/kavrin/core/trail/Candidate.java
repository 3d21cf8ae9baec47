package dev.kavrin.core.trail;

import dev.kavrin.core.health.Verdict;
import java.time.Instant;

/**
 * A copy that might be restored.
 *
 * @param state its state
 * @param path where it lies
 * @param reason health in a few words when not whole, else empty
 * @param work when the work in it was done, latest possible
 * @param parts parts that can be read, −1 if the kind has none
 * @param opened a person's word: true opened right, false wrong, null not tried
 */
public record Candidate(
    String state,
    String path,
    CopyKind kind,
    Verdict verdict,
    String reason,
    Instant work,
    long size,
    long parts,
    Boolean opened,
    boolean unsettled) {}
