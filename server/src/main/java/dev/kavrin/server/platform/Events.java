package dev.kavrin.server.platform;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Tells open pages what to fetch again. Events carry names only, never data; what changes many
 * times in a moment is told once.
 */
@Component
public class Events {
  private static final int REMEMBERED = 500;

  private final List<SseEmitter> pages = new CopyOnWriteArrayList<>();
  private final Deque<Event> recent = new ArrayDeque<>();
  private final Map<String, String> waiting = new LinkedHashMap<>();
  private long last = System.currentTimeMillis();

  private record Event(long id, String words) {}

  /**
   * Something changed that is of no single document; to be called after the change can be read.
   *
   * @param topic one of those the interface knows, such as "search"
   */
  public void changed(String topic) {
    wait(topic, topic);
  }

  /** A document changed: the pages ask again for what they show of it. */
  public void document(UUID document, UUID project, long revision) {
    wait("document " + document, "document " + document + " " + project + " " + revision);
  }

  /** How a document stands changed, as far as no record tells. */
  public void standing(UUID document, UUID project) {
    wait("standing " + document, "standing " + document + " " + project);
  }

  /** A project's plan changed, or an incident of it: all its documents may show it. */
  public void project(UUID project) {
    wait("project " + project, "project " + project);
  }

  private synchronized void wait(String what, String words) {
    waiting.put(what, words);
  }

  @Scheduled(fixedDelay = 150)
  synchronized void tell() {
    for (String words : waiting.values()) {
      Event event = new Event(++last, words);
      recent.addLast(event);
      if (recent.size() > REMEMBERED) {
        recent.removeFirst();
      }
      pages.forEach(page -> send(page, event));
    }
    waiting.clear();
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
              .data(event.words(), MediaType.TEXT_PLAIN));
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
