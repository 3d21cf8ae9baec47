package dev.kavrin.server.people;

import dev.kavrin.server.platform.ProblemException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How people show who they are: an invitation taken up, a password chosen, given, changed. */
@Service
class SignInService {
  static final Duration INVITED_FOR = Duration.ofDays(7);
  private static final int SHORTEST = 12;

  /** bcrypt takes no more (its 72 bytes); what is longer is refused, never cut. */
  private static final int LONGEST_BYTES = 72;

  /**
   * Compared against when there is no such person, so that the time of an answer tells nothing; of
   * a password that nobody knows.
   */
  private static final String NOBODY =
      "$2b$12$/NM5dBzZs6ZbMM4QCgvovu2QWXOvMDWgouYl66dI98Zd8Y7RjhPC.";

  private final BCryptPasswordEncoder encoder = new BCryptPasswordEncoder(12);
  private final PeopleRows.Persons persons;
  private final PeopleRows.Invitations invitations;
  private final Doorkeeper doorkeeper;

  /** One name from many places and many names from one place: neither is tried out. */
  private final Patience byName;

  private final Patience byPlace;
  private final InstantSource clock;

  SignInService(
      PeopleRows.Persons persons,
      PeopleRows.Invitations invitations,
      Doorkeeper doorkeeper,
      InstantSource clock) {
    this.persons = persons;
    this.invitations = invitations;
    this.doorkeeper = doorkeeper;
    this.byName = new Patience(4, clock);
    this.byPlace = new Patience(20, clock);
    this.clock = clock;
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
    String hash = person == null || person.passwordHash == null ? NOBODY : person.passwordHash;
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
    PeopleRows.Person person = PeopleRows.there(persons, name);
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
