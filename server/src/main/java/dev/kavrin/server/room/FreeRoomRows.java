package dev.kavrin.server.room;

import java.time.Instant;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.transaction.annotation.Transactional;

interface FreeRoomRows extends JpaRepository<FreeRoomRow, Long> {
  List<FreeRoomRow> findBySeenAfterOrderBySeen(Instant after);

  @Transactional
  void deleteBySeenBefore(Instant before);
}
