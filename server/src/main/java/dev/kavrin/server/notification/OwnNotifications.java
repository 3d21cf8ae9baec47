package dev.kavrin.server.notification;

import jakarta.annotation.Nullable;
import java.util.Set;

/**
 * What one person wants to hear of, and how.
 *
 * @param page in every page they have open
 * @param browser as a notification of the browser, while a page is open
 * @param mail their address; null for no mail
 * @param silent kinds they do not want to hear of
 */
public record OwnNotifications(
    boolean page, boolean browser, @Nullable String mail, Set<NotificationSettings.Kind> silent) {
  public OwnNotifications {
    if (mail != null && !mail.matches("[^\\s@]+@[^\\s@]+")) {
      throw new IllegalArgumentException("'" + mail + "' is no mail address");
    }
    silent = silent == null ? Set.of() : Set.copyOf(silent);
  }
}
