package dev.kavrin.server.platform;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;

/** Records of who may enter. */
final class Rows {
  private Rows() {}

  @Entity(name = "Person")
  @Table(name = "person")
  static class Person {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String name;

    static Person named(String name) {
      Person person = new Person();
      person.name = name;
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

  interface Persons extends JpaRepository<Person, Long> {
    java.util.Optional<Person> findByName(String name);
  }

  interface Sessions extends JpaRepository<Session, String> {}

  interface EntryLinks extends JpaRepository<EntryLink, String> {}
}
