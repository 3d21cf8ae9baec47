package dev.kavrin.server.notification;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * Something people are told.
 *
 * @param view where in the page it leads, beginning with a slash
 * @param documents which it is about
 * @param path to copy for what is to be done about it, null if none helps
 */
public record Message(
    UUID id,
    Instant at,
    NotificationSettings.Kind kind,
    String title,
    String words,
    String view,
    List<UUID> documents,
    @Nullable String path) {}
