package dev.kavrin.server.people;

import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who is let in, by which password, and what each may. */
@Service
class PeopleService {
  private static final Duration INVITED_FOR = Duration.ofDays(7);
  private static final int SHORTEST = 12;

  /** bcrypt takes no more (its 72 bytes); what is longer is refused, never cut. */
  private static final int LONGEST_BYTES = 72;

  /** Compared against when there is no such person, so that the time of an answer tells nothing. */
  private final String nobody;

  private final BCryptPasswordEncoder encoder = new BCryptPasswordEncoder(12);
  private final PeopleRows.Persons persons;
  private final PeopleRows.Grants grants;
  private final PeopleRows.Invitations invitations;
  private final Doorkeeper doorkeeper;

  /** One name from many places and many names from one place: neither is tried out. */
  private final Patience byName;

  private final Patience byPlace;
  private final Events events;
  private final InstantSource clock;

  PeopleService(
      PeopleRows.Persons persons,
      PeopleRows.Grants grants,
      PeopleRows.Invitations invitations,
      Doorkeeper doorkeeper,
      Events events,
      InstantSource clock) {
    this.persons = persons;
    this.grants = grants;
    this.invitations = invitations;
    this.doorkeeper = doorkeeper;
    this.byName = new Patience(4, clock);
    this.byPlace = new Patience(20, clock);
    this.events = events;
    this.clock = clock;
    this.nobody = encoder.encode(Tokens.next());
  }

  /**
   * @param project null for every project there is and will be
   */
  record Grant(@Nullable UUID project, Role role) {}

  /**
   * @param waiting true while the invitation was not taken up
   */
  record PersonLine(
      String name,
      List<Grant> grants,
      boolean password,
      boolean waiting,
      @Nullable Instant since) {}

  @Transactional(readOnly = true)
  List<PersonLine> all() {
    return persons.findByRemovedIsNullOrderByName().stream().map(this::line).toList();
  }

  private PersonLine line(PeopleRows.Person p) {
    List<Grant> may =
        grants.findByPersonId(p.id).stream()
            .map(g -> new Grant(g.project, g.role))
            .sorted(Comparator.comparing(g -> String.valueOf(g.project())))
            .toList();
    boolean waiting = p.passwordHash == null && doorkeeper.sessions(p.name).isEmpty();
    return new PersonLine(p.name, may, p.passwordHash != null, waiting, p.created);
  }

  /** Makes a person, if there is none of that name, and a token by which they choose a password. */
  @Transactional
  String invite(String name, List<Grant> may, String by) {
    PeopleRows.Person person =
        persons.findByName(name).orElseGet(() -> PeopleRows.Person.named(name, clock.instant()));
    if (person.id != null && person.removed == null && person.passwordHash != null) {
      throw ProblemException.conflict(
          "person-there", "%s signs in already. Nothing was changed.".formatted(name));
    }
    boolean keepsGrants = person.id != null && person.removed == null && may.isEmpty();
    person.removed = null;
    persons.saveAndFlush(person);
    if (!keepsGrants) {
      grant(person, may, by);
    }
    invitations.deleteByPersonId(person.id);
    String token = Tokens.next();
    PeopleRows.Invitation invitation = new PeopleRows.Invitation();
    invitation.tokenHash = Tokens.hash(token);
    invitation.personId = person.id;
    invitation.created = clock.instant();
    invitation.createdBy = by;
    invitations.save(invitation);
    return token;
  }

  /** What a person may from now on; the last one who may administer everything keeps that. */
  @Transactional
  void change(String name, List<Grant> may, String by) {
    PeopleRows.Person person = there(name);
    grant(person, may, by);
    someoneAdministers();
    events.rightsChanged();
  }

  /** Takes a person's rights, password and sessions away; what they did stays under their name. */
  @Transactional
  void remove(String name) {
    PeopleRows.Person person = there(name);
    person.removed = clock.instant();
    person.passwordHash = null;
    grants.deleteByPersonId(person.id);
    invitations.deleteByPersonId(person.id);
    doorkeeper.endAll(person.id);
    someoneAdministers();
    events.rightsChanged();
  }

  private void grant(PeopleRows.Person person, List<Grant> may, String by) {
    grants.deleteByPersonId(person.id);
    grants.flush();
    for (Grant g : may) {
      PeopleRows.RoleGrant row = new PeopleRows.RoleGrant();
      row.personId = person.id;
      row.project = g.project();
      row.role = g.role();
      row.granted = clock.instant();
      row.grantedBy = by;
      grants.save(row);
    }
  }

  private void someoneAdministers() {
    boolean somebody =
        persons.findByRemovedIsNullOrderByName().stream()
            .flatMap(p -> grants.findByPersonId(p.id).stream())
            .anyMatch(g -> g.project == null && g.role == Role.ADMINISTER);
    if (!somebody) {
      throw ProblemException.conflict(
          "nobody-left",
          "Nobody would be left who may administer everything. Nothing was changed.");
    }
  }

  private PeopleRows.Person there(String name) {
    return persons
        .findByName(name)
        .filter(p -> p.removed == null)
        .orElseThrow(() -> ProblemException.notFound("There is nobody called " + name + "."));
  }

  /** Whose invitation it is; empty if it is used, old or wrong. */
  @Transactional(readOnly = true)
  Optional<String> invited(String token) {
    return open(token).flatMap(i -> persons.findById(i.personId)).map(p -> p.name);
  }

  /** Uses an invitation up: its person has a password now, and is signed in. */
  @Transactional
  String accept(String token, String password, Doorkeeper.Seen seen) {
    PeopleRows.Invitation invitation =
        open(token)
            .orElseThrow(
                () ->
                    ProblemException.notFound(
                        "This invitation was used already, or is older than a week. Ask for a new"
                            + " one."));
    PeopleRows.Person person = persons.findById(invitation.personId).orElseThrow();
    person.passwordHash = encoder.encode(acceptable(password, person.name));
    invitation.used = clock.instant();
    return doorkeeper.open(person.id, seen);
  }

  private Optional<PeopleRows.Invitation> open(String token) {
    return invitations
        .findById(Tokens.hash(token))
        .filter(i -> i.used == null && i.created.plus(INVITED_FOR).isAfter(clock.instant()));
  }

  /**
   * A session token for a name and its password.
   *
   * @throws ProblemException 401 with the same words whether the name or the password is wrong; 429
   *     with the seconds to wait after several wrong ones
   */
  @Transactional
  String signIn(String name, String password, Doorkeeper.Seen seen) {
    Stream.of(byName.left(name), byPlace.left(seen.from()))
        .flatMap(Optional::stream)
        .max(Comparator.naturalOrder())
        .ifPresent(
            left -> {
              throw ProblemException.tooMany(left.toSeconds() + 1);
            });
    PeopleRows.Person person = persons.findByName(name).filter(p -> p.removed == null).orElse(null);
    String hash = person == null || person.passwordHash == null ? nobody : person.passwordHash;
    if (!matches(password, hash) || person == null || person.passwordHash == null) {
      byName.wrong(name);
      byPlace.wrong(seen.from());
      throw ProblemException.unknownPerson();
    }
    byName.right(name);
    return doorkeeper.open(person.id, seen);
  }

  private boolean matches(String password, String hash) {
    return password.getBytes(StandardCharsets.UTF_8).length <= LONGEST_BYTES
        && encoder.matches(password, hash);
  }

  /** Another password; the other sessions end. */
  @Transactional
  void changePassword(String name, String old, String password, UUID session) {
    PeopleRows.Person person = there(name);
    if (person.passwordHash != null && !matches(old, person.passwordHash)) {
      throw ProblemException.badInput(
          "wrong-password", "That is not your password until now. Nothing was changed.");
    }
    person.passwordHash = encoder.encode(acceptable(password, name));
    doorkeeper.sessions(name).stream()
        .filter(s -> !s.id().equals(session))
        .forEach(s -> doorkeeper.end(name, s.id()));
  }

  private static String acceptable(String password, String name) {
    if (password.codePointCount(0, password.length()) < SHORTEST) {
      throw ProblemException.badInput(
          "password-short", "A password has at least %d characters.".formatted(SHORTEST));
    }
    if (password.getBytes(StandardCharsets.UTF_8).length > LONGEST_BYTES) {
      throw ProblemException.badInput(
          "password-long", "A password has at most %d bytes.".formatted(LONGEST_BYTES));
    }
    if (password.equalsIgnoreCase(name) || password.codePoints().distinct().count() < 4) {
      throw ProblemException.badInput(
          "password-plain", "That is guessed at once. Take several words that belong to no one.");
    }
    return password;
  }
}
