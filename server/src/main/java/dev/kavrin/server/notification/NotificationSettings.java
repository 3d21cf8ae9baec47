package dev.kavrin.server.notification;

import jakarta.annotation.Nullable;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * How people are told of what, as they set it.
 *
 * @param page in every open page of those who have not said otherwise
 * @param browser as a notification of their browser, while a page is open
 * @param desktop on the screen of the machine Kavrin runs on
 * @param silent kinds nobody wants to hear of
 */
public record NotificationSettings(
    boolean page,
    boolean browser,
    boolean desktop,
    @Nullable Mail mail,
    @Nullable Webhook webhook,
    Set<Kind> silent) {
  static final NotificationSettings DEFAULT =
      new NotificationSettings(true, false, false, null, null, EnumSet.noneOf(Kind.class));

  /** What there is to tell. */
  public enum Kind {
    CRASH("A program crashed", "%d crashes in one project"),
    REMINDER("Time to save", "Save %d documents now?"),
    LOSS("More could be lost than is accepted", "%d documents stand past the loss you accept"),
    SUDDEN_LOSS("A save took much away", "%d saves took much away"),
    OVERDUE("A backup is overdue", "The backups of %d documents are overdue"),
    UNPLANNED("Work lies where nobody backs it up", "%d files are backed up by nobody"),
    OWN_SAFETY_OFF(
        "A program's own autosave is off or set otherwise",
        "The own autosaves of %d programs are off or set otherwise"),
    FOLDER_AWAY("A backup folder is away", "%d backup folders are away"),
    FAILING("Something fails again and again", "%d things fail again and again"),
    DRIVE_FILLING("A drive is filling up", "%d drives are filling up"),
    TEST("A test", "%d tests");

    private final String words;
    private final String several;

    Kind(String words, String several) {
      this.words = words;
      this.several = several;
    }

    public String words() {
      return words;
    }

    /** The title of a message about so many at once. */
    String several(int n) {
      return several.formatted(n);
    }
  }

  /** Ways that reach people. */
  public enum Channel {
    PAGE,
    BROWSER,
    DESKTOP,
    MAIL,
    WEBHOOK
  }

  /**
   * Mail by SMTP (RFC 5321).
   *
   * @param user null if the server wants none
   * @param password null to keep the one that was set
   * @param tls true to insist on an encrypted connection (STARTTLS, RFC 3207)
   */
  public record Mail(
      String host,
      int port,
      @Nullable String user,
      @Nullable String password,
      String from,
      String to,
      boolean tls) {
    public Mail {
      if (host == null || host.isBlank() || from == null || to == null || !to.contains("@")) {
        throw new IllegalArgumentException("Mail needs a server, a sender and a receiver");
      }
      if (port < 1 || port > 65_535) {
        throw new IllegalArgumentException("Mail port " + port + " is not within 1 to 65535");
      }
    }

    Mail withPassword(@Nullable String other) {
      return new Mail(host, port, user, other, from, to, tls);
    }

    Mail withTo(String other) {
      return new Mail(host, port, user, password, from, other, tls);
    }
  }

  /** A message is posted there as JSON. */
  public record Webhook(String url) {
    public Webhook {
      if (url == null || !url.matches("https?://\\S+")) {
        throw new IllegalArgumentException("A webhook's address begins with http:// or https://");
      }
    }
  }

  public NotificationSettings {
    silent = silent == null ? Set.of() : Set.copyOf(silent);
  }

  List<Channel> channels() {
    return Arrays.stream(Channel.values()).filter(this::has).toList();
  }

  private boolean has(Channel channel) {
    return switch (channel) {
      case PAGE -> page;
      case BROWSER -> browser;
      case DESKTOP -> desktop;
      case MAIL -> mail != null;
      case WEBHOOK -> webhook != null;
    };
  }

  /** The same with somebody else who gets the mail. */
  NotificationSettings mailTo(String to) {
    return new NotificationSettings(
        page, browser, desktop, mail == null ? null : mail.withTo(to), webhook, silent);
  }

  /** True if nothing reaches anybody while no page is open. */
  boolean needsPage() {
    return channels().stream().allMatch(c -> c == Channel.PAGE || c == Channel.BROWSER);
  }

  /** Without the secret, as pages see it. */
  NotificationSettings shown() {
    return new NotificationSettings(
        page, browser, desktop, mail == null ? null : mail.withPassword(null), webhook, silent);
  }
}
