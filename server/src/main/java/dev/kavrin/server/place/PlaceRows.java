package dev.kavrin.server.place;

import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface PlaceRows extends JpaRepository<PlaceRow, Long> {
  Optional<PlaceRow> findByPath(String path);

  Optional<PlaceRow> findByUuid(UUID uuid);
}
