package dev.kavrin.core.offsite;

import jakarta.annotation.Nullable;
import java.time.Instant;

/**
 * An object as a store tells of it.
 *
 * @param length bytes
 * @param modified when it came there; null if the store does not tell
 * @param sha256 what its sender said of its bytes, lower-case hexadecimal; null if nobody did
 */
public record StoredObject(
    String name, long length, @Nullable Instant modified, @Nullable String sha256) {}
