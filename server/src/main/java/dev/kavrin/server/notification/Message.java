package dev.kavrin.server.notification;

import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * Something people are told.
 *
 * @param view where in the page it leads, beginning with a slash
 * @param documents which it is about
 */
public record Message(
    UUID id,
    Instant at,
    NotificationSettings.Kind kind,
    String title,
    String words,
    String view,
    List<UUID> documents) {}
