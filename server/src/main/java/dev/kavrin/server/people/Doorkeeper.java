package dev.kavrin.server.people;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** One-time links, passwords and invitations become sessions; only digests are stored. */
@Service
public class Doorkeeper {
  private static final Duration LINK_LIFE = Duration.ofHours(12);
  static final Duration SESSION_LIFE = Duration.ofDays(60);
  private static final Duration USE_NOTED = Duration.ofMinutes(1);

  /** Where a session was begun, for the person to tell theirs apart. */
  record Seen(String from, String browser) {}

  /** A person whose session a call brought. */
  record Entered(String name, UUID session, Rights rights) {}

  /** A session as its person sees it. */
  record SessionLine(UUID id, String from, String browser, Instant since, Instant lastUsed) {}

  private final Cache<String, Entered> known =
      Caffeine.newBuilder().expireAfterWrite(Duration.ofHours(1)).maximumSize(1000).build();

  private final PeopleRows.Persons persons;
  private final PeopleRows.Sessions sessions;
  private final PeopleRows.EntryLinks links;
  private final PeopleRows.Grants grants;
  private final InstantSource clock;

  Doorkeeper(
      PeopleRows.Persons persons,
      PeopleRows.Sessions sessions,
      PeopleRows.EntryLinks links,
      PeopleRows.Grants grants,
      InstantSource clock) {
    this.persons = persons;
    this.sessions = sessions;
    this.links = links;
    this.grants = grants;
    this.clock = clock;
  }

  /**
   * A token that opens the door once, for whoever sits at this machine; such a person may
   * everything.
   */
  @Transactional
  public String newLink(String name) {
    PeopleRows.Person person =
        persons
            .findByName(name)
            .orElseGet(() -> persons.save(PeopleRows.Person.named(name, clock.instant())));
    person.removed = null;
    if (!rights(person.id).mayEverywhere(Role.ADMINISTER)) {
      PeopleRows.RoleGrant grant = new PeopleRows.RoleGrant();
      grant.personId = person.id;
      grant.role = Role.ADMINISTER;
      grant.granted = clock.instant();
      grant.grantedBy = name;
      grants.findByPersonId(person.id).stream()
          .filter(g -> g.project == null)
          .forEach(grants::delete);
      grants.flush();
      grants.save(grant);
    }
    String token = Tokens.next();
    PeopleRows.EntryLink link = new PeopleRows.EntryLink();
    link.tokenHash = Tokens.hash(token);
    link.personId = person.id;
    link.created = clock.instant();
    links.save(link);
    return token;
  }

  /** Uses a link up; the answer is a session token, empty if the link is used, old or wrong. */
  @Transactional
  public Optional<String> enter(String linkToken, Seen seen) {
    PeopleRows.EntryLink link = links.findById(Tokens.hash(linkToken)).orElse(null);
    if (link == null || link.used || link.created.plus(LINK_LIFE).isBefore(clock.instant())) {
      return Optional.empty();
    }
    link.used = true;
    return Optional.of(open(link.personId, seen));
  }

  /** Begins a session of a person who has shown who they are. */
  @Transactional
  String open(long person, Seen seen) {
    String token = Tokens.next();
    PeopleRows.Session session = new PeopleRows.Session();
    session.tokenHash = Tokens.hash(token);
    session.personId = person;
    session.created = clock.instant();
    session.lastUsed = clock.instant();
    session.uuid = UUID.randomUUID();
    session.seenFrom = seen.from();
    session.browser = seen.browser();
    sessions.save(session);
    return token;
  }

  /** The person a session belongs to and what they may, now. */
  @Transactional
  Optional<Entered> who(String sessionToken) {
    String hash = Tokens.hash(sessionToken);
    Optional<Entered> entered =
        sessions
            .findById(hash)
            .filter(s -> s.created.plus(SESSION_LIFE).isAfter(clock.instant()))
            .flatMap(this::entered);
    entered.ifPresentOrElse(e -> known.put(hash, e), () -> known.invalidate(hash));
    return entered;
  }

  private Optional<Entered> entered(PeopleRows.Session session) {
    if (session.lastUsed.plus(USE_NOTED).isBefore(clock.instant())) {
      session.lastUsed = clock.instant();
    }
    return persons
        .findById(session.personId)
        .filter(p -> p.removed == null)
        .map(p -> new Entered(p.name, session.uuid, rights(p.id)));
  }

  /** What somebody may; nothing for who is not let in. */
  @Transactional(readOnly = true)
  Rights rights(String name) {
    return persons
        .findByName(name)
        .filter(p -> p.removed == null)
        .map(p -> rights(p.id))
        .orElse(Rights.NONE);
  }

  private Rights rights(long person) {
    Rights rights = Rights.NONE;
    for (PeopleRows.RoleGrant g : grants.findByPersonId(person)) {
      rights = rights.with(g.project, g.role);
    }
    return rights;
  }

  /** The same as far as it was asked lately; the records are not asked. */
  Optional<Entered> remembered(String sessionToken) {
    return Optional.ofNullable(known.getIfPresent(Tokens.hash(sessionToken)));
  }

  @Transactional(readOnly = true)
  List<SessionLine> sessions(String name) {
    return persons.findByName(name).stream()
        .flatMap(p -> sessions.findByPersonIdOrderByLastUsedDesc(p.id).stream())
        .filter(s -> s.created.plus(SESSION_LIFE).isAfter(clock.instant()))
        .map(s -> new SessionLine(s.uuid, s.seenFrom, s.browser, s.created, s.lastUsed))
        .toList();
  }

  /** Ends a session of that person's; nothing happens if it is nobody's or another's. */
  @Transactional
  void end(String name, UUID session) {
    persons.findByName(name).stream()
        .flatMap(p -> sessions.findByPersonIdOrderByLastUsedDesc(p.id).stream())
        .filter(s -> s.uuid.equals(session))
        .forEach(this::forget);
  }

  private void forget(PeopleRows.Session session) {
    sessions.delete(session);
    known.invalidate(session.tokenHash);
  }

  /** Ends all sessions of a person. */
  @Transactional
  void endAll(long person) {
    sessions.findByPersonIdOrderByLastUsedDesc(person).forEach(this::forget);
  }
}
