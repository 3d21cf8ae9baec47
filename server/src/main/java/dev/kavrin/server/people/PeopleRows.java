package dev.kavrin.server.people;

import dev.kavrin.server.platform.ProblemException;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

/** Records of who may enter. */
final class PeopleRows {
  private PeopleRows() {}

  @Entity(name = "Person")
  @Table(name = "person")
  static class Person {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String name;

    @Column(name = "password_hash")
    String passwordHash;

    Instant created;
    Instant removed;

    static Person named(String name, Instant created) {
      Person person = new Person();
      person.name = name;
      person.created = created;
      return person;
    }
  }

  @Entity(name = "Session")
  @Table(name = "session")
  static class Session {
    @Id
    @Column(name = "token_hash")
    String tokenHash;

    @Column(name = "person_id")
    Long personId;

    Instant created;

    @Column(name = "last_used")
    Instant lastUsed;

    UUID uuid;

    @Column(name = "seen_from")
    String seenFrom;

    String browser;
  }

  @Entity(name = "EntryLink")
  @Table(name = "entry_link")
  static class EntryLink {
    @Id
    @Column(name = "token_hash")
    String tokenHash;

    @Column(name = "person_id")
    Long personId;

    Instant created;
    boolean used;
  }

  @Entity(name = "RoleGrant")
  @Table(name = "role_grant")
  static class RoleGrant {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    @Column(name = "person_id")
    Long personId;

    UUID project;

    @Enumerated(EnumType.STRING)
    Role role;

    Instant granted;

    @Column(name = "granted_by")
    String grantedBy;
  }

  @Entity(name = "Invitation")
  @Table(name = "invitation")
  static class Invitation {
    @Id
    @Column(name = "token_hash")
    String tokenHash;

    @Column(name = "person_id")
    Long personId;

    Instant created;

    @Column(name = "created_by")
    String createdBy;

    Instant used;
  }

  interface Persons extends JpaRepository<Person, Long> {
    Optional<Person> findByName(String name);

    List<Person> findByRemovedIsNullOrderByName();
  }

  /**
   * @throws ProblemException 404 for somebody who was never let in, or is not any more
   */
  static Person there(Persons persons, String name) {
    return persons
        .findByName(name)
        .filter(p -> p.removed == null)
        .orElseThrow(() -> ProblemException.notFound("There is nobody called " + name + "."));
  }

  interface Sessions extends JpaRepository<Session, String> {
    List<Session> findByPersonIdOrderByLastUsedDesc(Long personId);

    void deleteByPersonId(Long personId);
  }

  interface Grants extends JpaRepository<RoleGrant, Long> {
    List<RoleGrant> findByPersonId(Long personId);

    void deleteByPersonId(Long personId);
  }

  interface Invitations extends JpaRepository<Invitation, String> {
    void deleteByPersonId(Long personId);
  }

  interface EntryLinks extends JpaRepository<EntryLink, String> {}
}
