package dev.kavrin.server.notification;

import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;

/** Something people are to be told. */
record News(Kind kind, About about, String title, String words) {}
