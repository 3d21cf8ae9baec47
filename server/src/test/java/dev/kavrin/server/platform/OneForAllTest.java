package dev.kavrin.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Made once for all who wait, never older than the question. */
class OneForAllTest {
  private final ExecutorService people = Executors.newFixedThreadPool(40);

  @AfterEach
  void home() {
    people.shutdownNow();
  }

  @Test
  void whoAsksMeanwhileSharesWhatIsMadeNext() throws Exception {
    CountDownLatch begun = new CountDownLatch(1);
    CountDownLatch go = new CountDownLatch(1);
    AtomicInteger made = new AtomicInteger();
    OneForAll<Integer> shared =
        new OneForAll<>(
            () -> {
              int number = made.incrementAndGet();
              begun.countDown();
              await(go);
              return number;
            });
    Future<Integer> first = people.submit(shared::get);
    begun.await();
    AtomicInteger asking = new AtomicInteger();
    List<Future<Integer>> others = new ArrayList<>();
    for (int n = 0; n < 30; n++) {
      others.add(
          people.submit(
              () -> {
                asking.incrementAndGet();
                return shared.get();
              }));
    }
    while (asking.get() < 30) {
      Thread.onSpinWait();
    }
    go.countDown();
    assertThat(first.get()).isEqualTo(1);
    for (Future<Integer> other : others) {
      assertThat(other.get()).isGreaterThan(1);
    }
    assertThat(made.get()).isLessThan(31);
  }

  @Test
  void nothingIsOlderThanItsQuestionAndOneIsMadeAtATime() throws Exception {
    AtomicInteger world = new AtomicInteger();
    AtomicInteger atOnce = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    OneForAll<Integer> shared =
        new OneForAll<>(
            () -> {
              most.accumulateAndGet(atOnce.incrementAndGet(), Math::max);
              int seen = world.get();
              Thread.yield();
              atOnce.decrementAndGet();
              return seen;
            });
    List<Future<Boolean>> fresh = new ArrayList<>();
    for (int n = 0; n < 40; n++) {
      fresh.add(
          people.submit(
              () -> {
                boolean all = true;
                for (int i = 0; i < 500; i++) {
                  int changed = world.incrementAndGet();
                  all &= shared.get() >= changed;
                }
                return all;
              }));
    }
    for (Future<Boolean> each : fresh) {
      assertThat(each.get()).isTrue();
    }
    assertThat(most.get()).isEqualTo(1);
  }

  @Test
  void aFailureIsToldToThoseWhoWaitedAndTheNextIsMadeAnew() {
    AtomicInteger made = new AtomicInteger();
    OneForAll<String> shared =
        new OneForAll<>(
            () -> {
              if (made.incrementAndGet() == 1) {
                throw ProblemException.notFound("not yet");
              }
              return "there";
            });
    assertThatThrownBy(shared::get).isInstanceOf(ProblemException.class).hasMessage("not yet");
    assertThat(shared.get()).isEqualTo("there");
  }

  private static void await(CountDownLatch latch) {
    try {
      latch.await();
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
    }
  }
}
