package dev.kavrin.server.project;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface DocumentRows extends JpaRepository<DocumentRow, Long> {
  Optional<DocumentRow> findByUuid(UUID uuid);

  List<DocumentRow> findByProjectIdOrderByRelPath(Long projectId);
}
