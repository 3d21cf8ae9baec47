package dev.kavrin.server.notification;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.UUID;

/**
 * Something people are told.
 *
 * @param view where in the page it leads, beginning with a slash
 * @param document which it is about, null if none
 */
public record Message(
    UUID id,
    Instant at,
    NotificationSettings.Kind kind,
    String title,
    String words,
    String view,
    @Nullable UUID document) {}
