package dev.kavrin.server.people;

import dev.kavrin.server.platform.Events;
import io.swagger.v3.oas.annotations.Hidden;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The one event stream of a browser. */
@RestController
@Hidden
class EventsController {
  private final Events events;
  private final Access access;

  EventsController(Events events, Access access) {
    this.events = events;
    this.access = access;
  }

  @GetMapping(path = "/api/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter open(@RequestHeader(name = "Last-Event-ID", required = false) Long lastSeen) {
    Rights rights = access.current();
    return events.open(lastSeen, project -> rights.may(project, Role.LOOK));
  }
}
