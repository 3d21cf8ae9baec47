package dev.kavrin.server.notification;

import dev.kavrin.server.people.Access;
import dev.kavrin.server.people.Rights;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** How people are told of what, and what they were told. */
@RestController
class NotificationController {
  private final NotificationService telling;
  private final Notifier teller;
  private final ReminderNews reminders;
  private final OwnNotificationService own;
  private final Access access;

  NotificationController(
      NotificationService telling,
      Notifier teller,
      ReminderNews reminders,
      OwnNotificationService own,
      Access access) {
    this.telling = telling;
    this.teller = teller;
    this.reminders = reminders;
    this.own = own;
    this.access = access;
  }

  /** A kind of message with the words it goes by. */
  record KindView(NotificationSettings.Kind kind, String words) {
    /** Those there is something to choose about. */
    static List<KindView> all() {
      return Arrays.stream(NotificationSettings.Kind.values())
          .filter(k -> k != NotificationSettings.Kind.TEST)
          .map(k -> new KindView(k, k.words()))
          .toList();
    }
  }

  /**
   * @param problem why the last delivery failed, null if it arrived
   */
  record OutcomeView(NotificationSettings.Channel channel, Instant at, @Nullable String problem) {}

  /**
   * How people are told now.
   *
   * @param telling without the mail server's password
   * @param hasPassword true if one is set
   * @param needsPage true if nothing reaches anybody while no page is open
   */
  record TellingView(
      NotificationSettings telling,
      boolean hasPassword,
      boolean needsPage,
      List<KindView> kinds,
      List<OutcomeView> outcomes) {}

  record ChannelRequest(@NotNull NotificationSettings.Channel channel) {}

  record PutOffRequest(@Min(1) @Max(1440) int minutes) {}

  @GetMapping("/api/notifications")
  TellingView settings() {
    NotificationSettings present = telling.present();
    return new TellingView(
        present.shown(),
        present.mail() != null && present.mail().password() != null,
        present.needsPage(),
        KindView.all(),
        teller.outcomes().entrySet().stream()
            .map(o -> new OutcomeView(o.getKey(), o.getValue().at(), o.getValue().problem()))
            .toList());
  }

  @PutMapping("/api/notifications")
  TellingView set(@Valid @RequestBody NotificationSettings changed) throws IOException {
    telling.set(changed);
    return settings();
  }

  @PostMapping("/api/notifications/test")
  OutcomeView test(@Valid @RequestBody ChannelRequest request) {
    Notifier.Outcome outcome = teller.test(request.channel());
    return new OutcomeView(request.channel(), outcome.at(), outcome.problem());
  }

  /** What whoever asks is told of, the newest first. */
  @GetMapping("/api/messages")
  List<Message> messages(Principal who) {
    Rights may = access.current();
    return teller.recent().stream()
        .filter(told -> own.hears(who.getName(), may, told))
        .map(Notifier.Told::message)
        .toList();
  }

  /** No reminder for a document before so many minutes. */
  @PostMapping("/api/documents/{id}/reminder/put-off")
  void putOff(@PathVariable UUID id, @Valid @RequestBody PutOffRequest request) {
    reminders.putOff(id, request.minutes());
  }
}
