package dev.kavrin.server.notification;

import jakarta.annotation.Nullable;
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
import java.util.Properties;
import java.util.concurrent.TimeUnit;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import tools.jackson.databind.json.JsonMapper;

/** The ways by which a message leaves this machine. */
final class Ways {
  private static final Duration PATIENCE = Duration.ofSeconds(10);

  private final HttpClient http = HttpClient.newBuilder().connectTimeout(PATIENCE).build();

  /** One way out; waits until the message is handed over. */
  interface Way {
    /**
     * @throws IOException it did not arrive; says why
     */
    void send(NotificationSettings settings, Message message)
        throws IOException, InterruptedException;
  }

  /** Pages fetch messages by themselves, so nothing is sent to them. */
  Way of(NotificationSettings.Channel channel) {
    return switch (channel) {
      case PAGE, BROWSER -> (settings, message) -> {};
      case DESKTOP -> (settings, message) -> onDesktop(message);
      case MAIL -> (settings, message) -> byMail(settings.mail(), message);
      case WEBHOOK -> (settings, message) -> byWebhook(settings.webhook(), message);
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
}
