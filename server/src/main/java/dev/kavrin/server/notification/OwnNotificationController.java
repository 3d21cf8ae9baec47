package dev.kavrin.server.notification;

import dev.kavrin.server.notification.NotificationController.KindView;
import dev.kavrin.server.notification.NotificationSettings.Channel;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What the person who asks wants to hear of, and how. */
@RestController
class OwnNotificationController {
  private final OwnNotificationService own;
  private final NotificationService settings;
  private final Notifier notifier;

  OwnNotificationController(
      OwnNotificationService own, NotificationService settings, Notifier notifier) {
    this.own = own;
    this.settings = settings;
    this.notifier = notifier;
  }

  /**
   * @param canMail true if this machine has a mail server to send by
   * @param mailed when the last mail to this person went; null before the first
   * @param problem why it did not arrive, null if it did
   */
  record OwnNotificationsView(
      OwnNotifications own,
      boolean canMail,
      List<KindView> kinds,
      @Nullable Instant mailed,
      @Nullable String problem) {}

  record OwnTest(@NotNull Channel channel) {}

  @GetMapping("/api/session/notifications")
  OwnNotificationsView own(Principal who) {
    Notifier.Outcome last = notifier.mailTo(who.getName()).orElse(null);
    return new OwnNotificationsView(
        own.of(who.getName()),
        settings.present().mail() != null,
        KindView.all(),
        last == null ? null : last.at(),
        last == null ? null : last.problem());
  }

  @PutMapping("/api/session/notifications")
  OwnNotificationsView setOwn(@Valid @RequestBody OwnNotifications changed, Principal who)
      throws IOException {
    own.set(who.getName(), changed);
    return own(who);
  }

  /** Sends a message to this person alone, by one of their ways. */
  @PostMapping("/api/session/notifications/test")
  NotificationController.OutcomeView testOwn(@Valid @RequestBody OwnTest r, Principal who) {
    if (r.channel() == Channel.DESKTOP || r.channel() == Channel.WEBHOOK) {
      throw ProblemException.badInput(
          "not-own", "That way is not one person's own. Nothing was sent.");
    }
    Notifier.Outcome outcome = notifier.test(who.getName(), r.channel());
    return new NotificationController.OutcomeView(r.channel(), outcome.at(), outcome.problem());
  }
}
