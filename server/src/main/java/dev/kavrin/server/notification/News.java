package dev.kavrin.server.notification;

import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import jakarta.annotation.Nullable;

/**
 * Something people are to be told.
 *
 * @param path to copy for what is to be done about it, null if none helps
 */
record News(Kind kind, About about, String title, String words, @Nullable String path) {
  News(Kind kind, About about, String title, String words) {
    this(kind, about, title, words, null);
  }
}
