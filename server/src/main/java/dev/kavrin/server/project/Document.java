package dev.kavrin.server.project;

import java.nio.file.Path;
import java.util.UUID;

/**
 * A document as other features see it.
 *
 * @param path relative to the project folder
 * @param live the whole path
 * @param linked true if it joined because another leans on it
 */
public record Document(
    long key, UUID id, UUID project, long workPlace, String path, Path live, boolean linked) {}
