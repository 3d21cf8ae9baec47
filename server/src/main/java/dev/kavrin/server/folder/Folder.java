package dev.kavrin.server.folder;

import java.nio.file.Path;
import java.util.UUID;

/** A place as other features see it. */
public record Folder(long key, UUID uuid, Path path, FolderRole role, String node) {}
