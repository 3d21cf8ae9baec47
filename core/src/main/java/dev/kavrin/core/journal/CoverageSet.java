package dev.kavrin.core.journal;

import java.time.Instant;
import java.util.UUID;

/** How many copies a person wants of each version: on how many disks, how many elsewhere. */
public record CoverageSet(
    Instant at, UUID project, String who, int copies, int disks, int elsewhere)
    implements JournalEntry, Fact.OfProject {}
