package dev.kavrin.core.version;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import java.time.Instant;
import java.util.List;

/**
 * A copy that might be restored.
 *
 * @param state its state
 * @param path where it lies
 * @param reason health in a few words when not whole, else empty
 * @param work when the work in it was done, latest possible
 * @param parts labels of the parts that can be read; empty if the kind has none
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
    List<String> parts,
    Boolean opened,
    boolean unsettled) {}
