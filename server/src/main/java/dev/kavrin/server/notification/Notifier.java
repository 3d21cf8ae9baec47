package dev.kavrin.server.notification;

import dev.kavrin.server.notification.NotificationSettings.Channel;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.Ids;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Delivers messages by every way that is set, and to each person who wants them by mail; one
 * delivery that fails does not stop the others.
 */
@Service
public class Notifier {
  private static final Logger LOG = LoggerFactory.getLogger(Notifier.class);
  private static final int REMEMBERED = 50;

  private final NotificationService settings;
  private final OwnNotificationService own;
  private final Events events;
  private final InstantSource clock;
  private final Ways ways = new Ways();
  private final ExecutorService delivering = Executors.newSingleThreadExecutor();
  private final Deque<Told> recent = new ArrayDeque<>();
  private final Map<Channel, Outcome> outcomes = new EnumMap<>(Channel.class);
  private final Map<String, Outcome> mails = new HashMap<>();

  Notifier(
      NotificationService settings,
      OwnNotificationService own,
      Events events,
      InstantSource clock) {
    this.settings = settings;
    this.own = own;
    this.events = events;
    this.clock = clock;
  }

  /**
   * What came of the last delivery by one way.
   *
   * @param problem why it failed, null if it arrived
   */
  public record Outcome(Instant at, @Nullable String problem) {}

  /**
   * What a message is about, which says who is told.
   *
   * @param projects whoever may look at one of them; none for those who may look at everything
   * @param view where in the page it leads, beginning with a slash
   */
  record About(Set<UUID> projects, String view, List<UUID> documents) {
    static About project(UUID project, String view) {
      return new About(Set.of(project), view, List.of());
    }

    static About document(UUID project, String view, UUID document) {
      return new About(Set.of(project), view + "/" + document, List.of(document));
    }

    static About machine(String view) {
      return new About(Set.of(), view, List.of());
    }
  }

  /**
   * @param only the one person it is for; null for all who may see what it is about
   */
  record Told(Message message, Set<UUID> projects, @Nullable String only) {}

  /** Tells by every way that is set, unless nobody wants to hear of that kind. */
  void tell(News news) {
    NotificationSettings set = settings.present();
    if (set.silent().contains(news.kind())) {
      return;
    }
    Told told = new Told(message(news), news.about().projects(), null);
    remember(told);
    set.channels().forEach(way -> delivering.execute(() -> deliver(set, way, told.message())));
    if (set.mail() != null) {
      delivering.execute(() -> mail(set, told));
    }
  }

  private Message message(News news) {
    Instant now = clock.instant();
    About about = news.about();
    return new Message(
        Ids.next(now),
        now,
        news.kind(),
        news.title(),
        news.words(),
        about.view(),
        about.documents(),
        news.path());
  }

  private void mail(NotificationSettings set, Told told) {
    own.byMail(told)
        .forEach((person, to) -> mails(person, send(set.mailTo(to), Channel.MAIL, told.message())));
  }

  /** Tries one way out of this machine, whatever is silent; waits for what comes of it. */
  Outcome test(Channel channel) {
    Message message = trial();
    if (channel == Channel.PAGE || channel == Channel.BROWSER) {
      remember(new Told(message, Set.of(), null));
    }
    deliver(settings.present(), channel, message);
    return outcomes().get(channel);
  }

  /** The same for one person alone. */
  Outcome test(String person, Channel channel) {
    Told told = new Told(trial(), Set.of(), person);
    if (channel != Channel.MAIL) {
      remember(told);
      return new Outcome(clock.instant(), null);
    }
    String to = own.of(person).mail();
    Outcome outcome =
        to == null
            ? new Outcome(clock.instant(), "you have given no address")
            : send(settings.present().mailTo(to), Channel.MAIL, told.message());
    mails(person, outcome);
    return outcome;
  }

  private Message trial() {
    return message(
        new News(
            Kind.TEST,
            About.machine("/notifications"),
            "Kavrin can reach you",
            "This is the test you asked for."));
  }

  synchronized List<Told> recent() {
    return List.copyOf(recent);
  }

  synchronized Map<Channel, Outcome> outcomes() {
    return Map.copyOf(outcomes);
  }

  /** What came of the last mail to a person; empty before the first. */
  synchronized Optional<Outcome> mailTo(String person) {
    return Optional.ofNullable(mails.get(person));
  }

  private void remember(Told told) {
    synchronized (this) {
      recent.addFirst(told);
      if (recent.size() > REMEMBERED) {
        recent.removeLast();
      }
    }
    events.changed("message");
  }

  private void deliver(NotificationSettings set, Channel channel, Message message) {
    Outcome outcome = send(set, channel, message);
    synchronized (this) {
      outcomes.put(channel, outcome);
    }
    events.changed("telling");
  }

  private void mails(String person, Outcome outcome) {
    synchronized (this) {
      mails.put(person, outcome);
    }
    events.changed("telling");
  }

  private Outcome send(NotificationSettings set, Channel channel, Message message) {
    String problem = null;
    try {
      ways.of(channel).send(set, message);
    } catch (IOException failed) {
      problem = failed.getMessage();
      LOG.warn("A message by {} did not arrive: {}", channel, problem);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      problem = "Kavrin was stopped";
    }
    return new Outcome(clock.instant(), problem);
  }

  @PreDestroy
  void close() {
    delivering.shutdownNow();
  }
}
