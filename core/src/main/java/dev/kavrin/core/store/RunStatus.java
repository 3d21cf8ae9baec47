package dev.kavrin.core.store;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;

/**
 * How a run stands.
 *
 * @param run of the newest step on disk
 * @param step the newest on disk
 * @param heldRun run of the newest step that can be gone on from, null if copies hold none
 * @param told what is the matter with the newest step, in words
 */
public record RunStatus(
    long run,
    long step,
    Instant written,
    @Nullable Long heldRun,
    @Nullable Long heldStep,
    List<String> told) {}
