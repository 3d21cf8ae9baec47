package dev.kavrin.server.folder;

import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface FolderRows extends JpaRepository<FolderRow, Long> {
  Optional<FolderRow> findByPath(String path);

  Optional<FolderRow> findByUuid(UUID uuid);
}
