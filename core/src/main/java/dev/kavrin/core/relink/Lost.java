package dev.kavrin.core.relink;

import dev.kavrin.core.chunk.ContentId;
import jakarta.annotation.Nullable;
import java.nio.file.Path;

/**
 * A file that is named and not there.
 *
 * @param path where it should be
 * @param content what it held when it was seen last, null if nobody saw it
 * @param held a copy of that, null if none can be reached
 */
public record Lost(Path path, @Nullable ContentId content, @Nullable Path held) {}
