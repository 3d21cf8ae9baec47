package dev.kavrin.server.platform;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** One-time links become sessions; only digests of either are stored. */
@Service
public class Doorkeeper {
  private final Cache<String, String> known =
      Caffeine.newBuilder().expireAfterWrite(Duration.ofHours(1)).maximumSize(1000).build();

  private static final Duration LINK_LIFE = Duration.ofHours(12);
  static final Duration SESSION_LIFE = Duration.ofDays(60);

  private final Rows.Persons persons;
  private final Rows.Sessions sessions;
  private final Rows.EntryLinks links;
  private final InstantSource clock;
  private final SecureRandom random = new SecureRandom();

  Doorkeeper(
      Rows.Persons persons, Rows.Sessions sessions, Rows.EntryLinks links, InstantSource clock) {
    this.persons = persons;
    this.sessions = sessions;
    this.links = links;
    this.clock = clock;
  }

  /** A token that opens the door once. */
  @Transactional
  public String newLink(String name) {
    Rows.Person person =
        persons.findByName(name).orElseGet(() -> persons.save(Rows.Person.named(name)));
    String token = token();
    Rows.EntryLink link = new Rows.EntryLink();
    link.tokenHash = hash(token);
    link.personId = person.id;
    link.created = clock.instant();
    links.save(link);
    return token;
  }

  /** Uses a link up; the answer is a session token, empty if the link is used, old or wrong. */
  @Transactional
  public Optional<String> enter(String linkToken) {
    Rows.EntryLink link = links.findById(hash(linkToken)).orElse(null);
    if (link == null || link.used || link.created.plus(LINK_LIFE).isBefore(clock.instant())) {
      return Optional.empty();
    }
    link.used = true;
    String token = token();
    Rows.Session session = new Rows.Session();
    session.tokenHash = hash(token);
    session.personId = link.personId;
    session.created = clock.instant();
    session.lastUsed = clock.instant();
    sessions.save(session);
    return Optional.of(token);
  }

  /** Name of the person a session belongs to. */
  @Transactional(readOnly = true)
  public Optional<String> who(String sessionToken) {
    return sessions
        .findById(hash(sessionToken))
        .filter(s -> s.created.plus(SESSION_LIFE).isAfter(clock.instant()))
        .flatMap(s -> persons.findById(s.personId))
        .map(p -> p.name)
        .map(
            name -> {
              known.put(hash(sessionToken), name);
              return name;
            });
  }

  /** The same as far as it was asked lately; the records are not asked. */
  public Optional<String> remembered(String sessionToken) {
    return Optional.ofNullable(known.getIfPresent(hash(sessionToken)));
  }

  private String token() {
    byte[] bytes = new byte[24];
    random.nextBytes(bytes);
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }

  private static String hash(String token) {
    try {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      return HexFormat.of().formatHex(digest.digest(token.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException everyJavaHasIt) {
      throw new IllegalStateException(everyJavaHasIt);
    }
  }
}
