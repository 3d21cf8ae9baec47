package dev.kavrin.server.platform;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Tells open pages what to fetch again. Events carry names only, never data. */
@Component
public class Events {
  private static final int REMEMBERED = 500;

  private final List<SseEmitter> pages = new CopyOnWriteArrayList<>();
  private final Deque<Event> recent = new ArrayDeque<>();
  private long last = System.currentTimeMillis();

  /** Something changed; {@code topic} such as "trail". */
  private record Event(long id, String topic) {}

  /** To be called after the change can be read. */
  public synchronized void changed(String topic) {
    Event event = new Event(++last, topic);
    recent.addLast(event);
    if (recent.size() > REMEMBERED) {
      recent.removeFirst();
    }
    pages.forEach(page -> send(page, event));
  }

  synchronized SseEmitter open(Long lastSeen) {
    SseEmitter page = new SseEmitter(0L);
    page.onCompletion(() -> pages.remove(page));
    page.onTimeout(() -> pages.remove(page));
    page.onError(e -> pages.remove(page));
    pages.add(page);
    boolean gap = lastSeen == null || recent.isEmpty() || recent.peekFirst().id() > lastSeen + 1;
    if (gap) {
      send(page, new Event(last, "everything"));
    } else {
      recent.stream().filter(e -> e.id() > lastSeen).forEach(e -> send(page, e));
    }
    return page;
  }

  private void send(SseEmitter page, Event event) {
    try {
      page.send(
          SseEmitter.event()
              .id(Long.toString(event.id()))
              .data(event.topic(), MediaType.TEXT_PLAIN));
    } catch (IOException | IllegalStateException gone) {
      pages.remove(page);
    }
  }

  @Scheduled(fixedDelay = 15_000)
  void keepOpen() {
    for (SseEmitter page : pages) {
      try {
        page.send(SseEmitter.event().comment("here"));
      } catch (IOException | IllegalStateException gone) {
        pages.remove(page);
      }
    }
  }
}
