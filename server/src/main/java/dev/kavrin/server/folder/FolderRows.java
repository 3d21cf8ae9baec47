package dev.kavrin.server.folder;

import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.NativeQuery;

interface FolderRows extends JpaRepository<FolderRow, Long> {
  Optional<FolderRow> findByPath(String path);

  Optional<FolderRow> findByUuid(UUID uuid);

  /** Leaves what another recorded meanwhile as it is, and waits for one who is about to. */
  @Modifying
  @NativeQuery(
      """
      insert into place (uuid, node, path, role, zone, created)
      values (:uuid, :node, :path, :role, :zone, :created) on conflict do nothing
      """)
  void recordUnlessKnown(
      UUID uuid, String node, String path, String role, String zone, Instant created);
}
