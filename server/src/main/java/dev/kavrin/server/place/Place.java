package dev.kavrin.server.place;

import java.nio.file.Path;
import java.util.UUID;

/** A place as other features see it. */
public record Place(long key, UUID uuid, Path path, PlaceRole role, String node) {}
