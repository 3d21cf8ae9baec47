package dev.kavrin.server.restore;

import jakarta.annotation.Nullable;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

/** Several restores that are one, as recorded. */
@Entity
@Table(name = "restore_group")
class GroupRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "project_id")
  Long projectId;

  Instant made;
  String who;
  String what;

  /** Ids of receipts, as JSON. */
  String ops;

  @Nullable UUID undoes;

  /** Null until it ended. */
  @Nullable Boolean done;

  String told = "";

  /** Where they are kept. */
  interface Repository extends JpaRepository<GroupRow, Long> {
    Optional<GroupRow> findByUuid(UUID uuid);

    List<GroupRow> findByProjectIdOrderByMadeDesc(Long projectId);
  }
}
