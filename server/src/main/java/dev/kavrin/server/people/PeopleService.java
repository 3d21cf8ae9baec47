package dev.kavrin.server.people;

import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Who is let in and what each may. Whoever administers single projects sees and changes what
 * concerns these, and nothing else.
 */
@Service
class PeopleService {
  private final PeopleRows.Persons persons;
  private final PeopleRows.Grants grants;
  private final PeopleRows.Invitations invitations;
  private final Doorkeeper doorkeeper;
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
    this.events = events;
    this.clock = clock;
  }

  /**
   * @param project null for every project there is and will be
   */
  record Grant(@Nullable UUID project, Role role) {}

  /**
   * @param waiting true while the invitation was not taken up
   * @param whole true if whoever asks administers all that this person may
   */
  record PersonLine(
      String name,
      List<Grant> grants,
      boolean password,
      boolean waiting,
      @Nullable Instant since,
      boolean whole) {}

  /** Who changes what others may, and where they may do so. */
  record Administrator(String name, Rights rights) {
    boolean over(@Nullable UUID project) {
      return project == null
          ? rights.mayEverywhere(Role.ADMINISTER)
          : rights.may(project, Role.ADMINISTER);
    }

    boolean over(Grant grant) {
      return over(grant.project());
    }

    boolean seen(Grant grant) {
      return grant.project() == null || over(grant);
    }
  }

  /** Those who may anything with what the administrator administers. */
  @Transactional(readOnly = true)
  List<PersonLine> all(Administrator by) {
    return persons.findByRemovedIsNullOrderByName().stream()
        .map(p -> line(p, by))
        .filter(p -> by.over((UUID) null) || !p.grants().isEmpty())
        .toList();
  }

  private PersonLine line(PeopleRows.Person p, Administrator by) {
    List<Grant> may = held(p);
    boolean waiting = p.passwordHash == null && doorkeeper.sessions(p.name).isEmpty();
    return new PersonLine(
        p.name,
        may.stream().filter(by::seen).toList(),
        p.passwordHash != null,
        waiting,
        p.created,
        may.stream().allMatch(by::over));
  }

  private List<Grant> held(PeopleRows.Person p) {
    return grants.findByPersonId(p.id).stream()
        .map(g -> new Grant(g.project, g.role))
        .sorted(Comparator.comparing(g -> String.valueOf(g.project())))
        .toList();
  }

  /**
   * Lets somebody in.
   *
   * @return a token by which they choose a password; empty for somebody who signs in already: they
   *     only may more from now on
   */
  @Transactional
  Optional<String> invite(String name, List<Grant> may, Administrator by) {
    requireOver(may, by);
    PeopleRows.Person person =
        persons
            .findByName(name)
            .filter(p -> p.removed == null)
            .orElseGet(() -> added(name, may, by));
    List<Grant> held = held(person);
    List<Grant> more = may.stream().filter(g -> !covered(held, g)).toList();
    if (person.passwordHash != null) {
      if (more.isEmpty()) {
        throw ProblemException.conflict(
            "person-there", "%s signs in already. Nothing was changed.".formatted(name));
      }
      allow(person, more, by);
      events.rightsChanged();
      return Optional.empty();
    }
    requireWhole(person, by);
    allow(person, more, by);
    return Optional.of(invitation(person, by));
  }

  private PeopleRows.Person added(String name, List<Grant> may, Administrator by) {
    if (may.isEmpty() && !by.over((UUID) null)) {
      throw ProblemException.badInput(
          "no-grant", "Say what %s may in a project of yours.".formatted(name));
    }
    PeopleRows.Person person =
        persons.findByName(name).orElseGet(() -> PeopleRows.Person.named(name, clock.instant()));
    person.removed = null;
    return persons.saveAndFlush(person);
  }

  private static boolean covered(List<Grant> held, Grant wanted) {
    return held.stream()
        .filter(g -> g.project() == null || g.project().equals(wanted.project()))
        .anyMatch(g -> g.role().covers(wanted.role()));
  }

  private String invitation(PeopleRows.Person person, Administrator by) {
    invitations.deleteByPersonId(person.id);
    String token = Tokens.next();
    PeopleRows.Invitation invitation = new PeopleRows.Invitation();
    invitation.tokenHash = Tokens.hash(token);
    invitation.personId = person.id;
    invitation.created = clock.instant();
    invitation.createdBy = by.name();
    invitations.save(invitation);
    return token;
  }

  /**
   * What a person may from now on; what the administrator has no say in stays. The last one who may
   * administer everything keeps that.
   */
  @Transactional
  void change(String name, List<Grant> may, Administrator by) {
    PeopleRows.Person person = PeopleRows.there(persons, name);
    List<Grant> held = held(person);
    List<Grant> fresh = may.stream().filter(g -> !held.contains(g)).toList();
    requireOver(fresh, by);
    List<Grant> gone = held.stream().filter(by::over).filter(g -> !may.contains(g)).toList();
    grants.findByPersonId(person.id).stream()
        .filter(row -> gone.contains(new Grant(row.project, row.role)))
        .forEach(grants::delete);
    grants.flush();
    allow(person, fresh, by);
    someoneAdministers();
    events.rightsChanged();
  }

  /** Takes a person's rights, password and sessions away; what they did stays under their name. */
  @Transactional
  void remove(String name, Administrator by) {
    PeopleRows.Person person = PeopleRows.there(persons, name);
    requireWhole(person, by);
    person.removed = clock.instant();
    person.passwordHash = null;
    grants.deleteByPersonId(person.id);
    invitations.deleteByPersonId(person.id);
    doorkeeper.endAll(person.id);
    someoneAdministers();
    events.rightsChanged();
  }

  /** Of two roles in one place the one given now counts. */
  private void allow(PeopleRows.Person person, List<Grant> may, Administrator by) {
    for (Grant g : may) {
      grants.findByPersonId(person.id).stream()
          .filter(row -> Objects.equals(row.project, g.project()))
          .forEach(grants::delete);
      grants.flush();
      PeopleRows.RoleGrant row = new PeopleRows.RoleGrant();
      row.personId = person.id;
      row.project = g.project();
      row.role = g.role();
      row.granted = clock.instant();
      row.grantedBy = by.name();
      grants.save(row);
    }
  }

  private static void requireOver(List<Grant> may, Administrator by) {
    if (!may.stream().allMatch(by::over)) {
      throw ProblemException.forbidden(
          "not-yours",
          "You administer single projects, and this concerns others. Nothing was changed.");
    }
  }

  /** A new way in, or none any more, concerns all that a person may. */
  private void requireWhole(PeopleRows.Person person, Administrator by) {
    if (!held(person).stream().allMatch(by::over)) {
      throw ProblemException.forbidden(
          "not-yours",
          "%s may more than you administer. You can take away what they may in your projects."
                  .formatted(person.name)
              + " Nothing was changed.");
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
}
