package dev.kavrin.server.room;

import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** What takes the room, disk by disk. */
@RestController
class RoomController {
  private final RoomService room;

  RoomController(RoomService room) {
    this.room = room;
  }

  @GetMapping("/api/room")
  List<RoomService.DiskRoom> room() {
    return room.all();
  }
}
