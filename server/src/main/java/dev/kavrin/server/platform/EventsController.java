package dev.kavrin.server.platform;

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

  EventsController(Events events) {
    this.events = events;
  }

  @GetMapping(path = "/api/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter open(@RequestHeader(name = "Last-Event-ID", required = false) Long lastSeen) {
    return events.open(lastSeen);
  }
}
