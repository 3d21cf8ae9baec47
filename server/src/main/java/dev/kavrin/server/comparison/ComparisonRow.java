package dev.kavrin.server.comparison;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

/** A comparison once made, kept by the two contents. */
@Entity
@Table(name = "comparison")
class ComparisonRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(name = "content_a")
  String contentA;

  @Column(name = "content_b")
  String contentB;

  String body;

  @Column(name = "made_by")
  int madeBy;

  /** Where they are kept. */
  interface Repository extends JpaRepository<ComparisonRow, Long> {
    Optional<ComparisonRow> findByContentAAndContentB(String contentA, String contentB);
  }
}
