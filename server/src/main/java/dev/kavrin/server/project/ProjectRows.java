package dev.kavrin.server.project;

import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface ProjectRows extends JpaRepository<ProjectRow, Long> {
  Optional<ProjectRow> findByUuid(UUID uuid);
}
