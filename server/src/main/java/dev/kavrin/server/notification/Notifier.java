package dev.kavrin.server.notification;

import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.Ids;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import jakarta.mail.Message.RecipientType;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Delivers messages by every way that is set; one that fails does not stop the others. */
@Service
public class Notifier {
  private static final Logger LOG = LoggerFactory.getLogger(Notifier.class);
  private static final int REMEMBERED = 50;
  private static final Duration PATIENCE = Duration.ofSeconds(10);

  private final NotificationService telling;
  private final Events events;
  private final InstantSource clock;
  private final HttpClient http = HttpClient.newBuilder().connectTimeout(PATIENCE).build();
  private final ExecutorService delivering = Executors.newSingleThreadExecutor();
  private final Deque<Message> recent = new ArrayDeque<>();
  private final Map<NotificationSettings.Channel, Outcome> outcomes =
      new EnumMap<>(NotificationSettings.Channel.class);

  Notifier(NotificationService telling, Events events, InstantSource clock) {
    this.telling = telling;
    this.events = events;
    this.clock = clock;
  }

  /**
   * What came of the last delivery by one way.
   *
   * @param problem why it failed, null if it arrived
   */
  public record Outcome(Instant at, @Nullable String problem) {}

  private interface Delivery {
    void send(NotificationSettings telling, Message message)
        throws IOException, InterruptedException;
  }

  /** Tells by every way that is set, unless nobody wants to hear of that kind. */
  public void tell(
      NotificationSettings.Kind kind,
      String title,
      String words,
      String view,
      @Nullable UUID document) {
    NotificationSettings set = telling.present();
    if (set.silent().contains(kind)) {
      return;
    }
    Message message =
        new Message(Ids.next(clock.instant()), clock.instant(), kind, title, words, view, document);
    remember(message);
    set.channels().forEach(channel -> delivering.execute(() -> deliver(set, channel, message)));
  }

  /** Tries one way, whatever is silent; waits for what comes of it. */
  Outcome test(NotificationSettings.Channel channel) {
    Message message =
        new Message(
            Ids.next(clock.instant()),
            clock.instant(),
            NotificationSettings.Kind.TEST,
            "Kavrin can reach you",
            "This is the test you asked for.",
            "/notifications",
            null);
    if (channel == NotificationSettings.Channel.PAGE
        || channel == NotificationSettings.Channel.BROWSER) {
      remember(message);
    }
    deliver(telling.present(), channel, message);
    return outcomes().get(channel);
  }

  synchronized List<Message> recent() {
    return List.copyOf(recent);
  }

  synchronized Map<NotificationSettings.Channel, Outcome> outcomes() {
    return Map.copyOf(outcomes);
  }

  private void remember(Message message) {
    synchronized (this) {
      recent.addFirst(message);
      if (recent.size() > REMEMBERED) {
        recent.removeLast();
      }
    }
    events.changed("message");
  }

  private void deliver(
      NotificationSettings telling, NotificationSettings.Channel channel, Message message) {
    String problem = null;
    try {
      way(channel).send(telling, message);
    } catch (IOException failed) {
      problem = failed.getMessage();
      LOG.warn("NotificationSettings by {} failed: {}", channel, problem);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      problem = "Kavrin was stopped";
    }
    synchronized (this) {
      outcomes.put(channel, new Outcome(clock.instant(), problem));
    }
    events.changed("telling");
  }

  private Delivery way(NotificationSettings.Channel channel) {
    return switch (channel) {
      case PAGE, BROWSER -> (telling, message) -> events.changed("message");
      case DESKTOP -> (telling, message) -> onDesktop(message);
      case MAIL -> (telling, message) -> byMail(telling.mail(), message);
      case WEBHOOK -> (telling, message) -> byWebhook(telling.webhook(), message);
    };
  }

  private static void onDesktop(Message message) throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder("notify-send", "--app-name=Kavrin", message.title(), message.words())
            .redirectErrorStream(true)
            .start();
    boolean ended = process.waitFor(PATIENCE.toSeconds(), TimeUnit.SECONDS);
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (!ended || process.exitValue() != 0) {
      process.destroyForcibly();
      throw new IOException("notify-send: " + (said.isBlank() ? "no answer" : said.strip()));
    }
  }

  private static void byMail(@Nullable NotificationSettings.Mail mail, Message message)
      throws IOException {
    if (mail == null) {
      throw new IOException("no mail server is set");
    }
    JavaMailSenderImpl sender = new JavaMailSenderImpl();
    sender.setHost(mail.host());
    sender.setPort(mail.port());
    boolean named = mail.user() != null && !mail.user().isBlank();
    if (named) {
      sender.setUsername(mail.user());
      sender.setPassword(mail.password());
    }
    Properties p = sender.getJavaMailProperties();
    p.put("mail.smtp.connectiontimeout", String.valueOf(PATIENCE.toMillis()));
    p.put("mail.smtp.timeout", String.valueOf(PATIENCE.toMillis()));
    p.put("mail.smtp.auth", String.valueOf(named));
    p.put("mail.smtp.starttls.enable", "true");
    p.put("mail.smtp.starttls.required", String.valueOf(mail.tls()));
    try {
      MimeMessage letter = sender.createMimeMessage();
      letter.setFrom(mail.from());
      letter.setRecipients(RecipientType.TO, mail.to());
      letter.setSubject(message.title(), StandardCharsets.UTF_8.name());
      letter.setText(message.words(), StandardCharsets.UTF_8.name());
      sender.send(letter);
    } catch (MessagingException | MailException failed) {
      String first = String.valueOf(failed.getMessage()).lines().findFirst().orElse("no answer");
      throw new IOException(mail.host() + ":" + mail.port() + ": " + first, failed);
    }
  }

  private void byWebhook(@Nullable NotificationSettings.Webhook webhook, Message message)
      throws IOException, InterruptedException {
    if (webhook == null) {
      throw new IOException("no webhook is set");
    }
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(webhook.url()))
            .timeout(PATIENCE)
            .header("Content-Type", "application/json")
            .POST(BodyPublishers.ofString(JsonMapper.shared().writeValueAsString(message)))
            .build();
    HttpResponse<Void> answer = http.send(request, BodyHandlers.discarding());
    if (answer.statusCode() >= 300) {
      throw new IOException(webhook.url() + " answered " + answer.statusCode());
    }
  }

  @PreDestroy
  void close() {
    delivering.shutdownNow();
  }
}
