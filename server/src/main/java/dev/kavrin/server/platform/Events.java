package dev.kavrin.server.platform;

import jakarta.annotation.Nullable;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Predicate;
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

  private final List<Page> pages = new CopyOnWriteArrayList<>();
  private final Deque<Event> recent = new ArrayDeque<>();
  private final Map<String, Waiting> waiting = new LinkedHashMap<>();
  private long last = System.currentTimeMillis();

  /**
   * @param project whose people are told; null for everybody
   */
  private record Event(long id, String words, @Nullable UUID project) {}

  private record Waiting(String words, @Nullable UUID project) {}

  /** An open page and what its person may see. */
  private record Page(SseEmitter emitter, Predicate<UUID> sees) {}

  /**
   * Something changed that is of no single document; to be called after the change can be read.
   *
   * @param topic one of those the interface knows, such as "search"
   */
  public void changed(String topic) {
    wait(topic, topic, null);
  }

  /** A document changed: the pages ask again for what they show of it. */
  public void document(UUID document, UUID project, long revision) {
    wait("document " + document, "document " + document + " " + project + " " + revision, project);
  }

  /** How a document stands changed, as far as no record tells. */
  public void standing(UUID document, UUID project) {
    wait("standing " + document, "standing " + document + " " + project, project);
  }

  /** A project's plan changed, or an incident of it: all its documents may show it. */
  public void project(UUID project) {
    wait("project " + project, "project " + project, project);
  }

  private synchronized void wait(String what, String words, @Nullable UUID project) {
    waiting.put(what, new Waiting(words, project));
  }

  @Scheduled(fixedDelay = 150)
  synchronized void tell() {
    for (Waiting told : waiting.values()) {
      Event event = new Event(++last, told.words(), told.project());
      recent.addLast(event);
      if (recent.size() > REMEMBERED) {
        recent.removeFirst();
      }
      pages.forEach(page -> send(page, event));
    }
    waiting.clear();
  }

  /**
   * A page's stream.
   *
   * @param lastSeen number of the event it saw last; null for none
   * @param sees of which projects it is told
   */
  public synchronized SseEmitter open(@Nullable Long lastSeen, Predicate<UUID> sees) {
    Page page = new Page(new SseEmitter(0L), sees);
    page.emitter().onCompletion(() -> pages.remove(page));
    page.emitter().onTimeout(() -> pages.remove(page));
    page.emitter().onError(e -> pages.remove(page));
    pages.add(page);
    boolean gap = lastSeen == null || recent.isEmpty() || recent.peekFirst().id() > lastSeen + 1;
    if (gap) {
      send(page, new Event(last, "everything", null));
    } else {
      recent.stream().filter(e -> e.id() > lastSeen).forEach(e -> send(page, e));
    }
    return page.emitter();
  }

  /** Ends all streams: who may still look comes again, with the rights there are now. */
  public void rightsChanged() {
    pages.forEach(page -> page.emitter().complete());
  }

  private void send(Page page, Event event) {
    if (event.project() != null && !page.sees().test(event.project())) {
      return;
    }
    try {
      page.emitter()
          .send(
              SseEmitter.event()
                  .id(Long.toString(event.id()))
                  .data(event.words(), MediaType.TEXT_PLAIN));
    } catch (IOException | IllegalStateException gone) {
      pages.remove(page);
    }
  }

  @Scheduled(fixedDelay = 15_000)
  void keepOpen() {
    for (Page page : pages) {
      try {
        page.emitter().send(SseEmitter.event().comment("here"));
      } catch (IOException | IllegalStateException gone) {
        pages.remove(page);
      }
    }
  }
}
