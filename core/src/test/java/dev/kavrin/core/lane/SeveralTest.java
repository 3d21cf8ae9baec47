package dev.kavrin.core.lane;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class SeveralTest {
  private static List<Integer> upTo(int count) {
    return IntStream.range(0, count).boxed().toList();
  }

  @Property(tries = 100)
  void eachIsDoneOnceAndNeverMoreAtOnceThanAllowed(
      @ForAll @IntRange(min = 1, max = 6) int atOnce, @ForAll @IntRange(max = 40) int count)
      throws IOException {
    Queue<Integer> done = new ConcurrentLinkedQueue<>();
    AtomicInteger now = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    Several.each(
        atOnce,
        upTo(count),
        thing -> {
          most.accumulateAndGet(now.incrementAndGet(), Math::max);
          done.add(thing);
          now.decrementAndGet();
        });
    assertThat(done).containsExactlyInAnyOrderElementsOf(upTo(count));
    assertThat(most.get()).isLessThanOrEqualTo(atOnce);
  }

  @Test
  void severalAreUnderWayTogether() throws IOException {
    CountDownLatch all = new CountDownLatch(3);
    Several.each(
        3,
        upTo(3),
        thing -> {
          all.countDown();
          try {
            all.await();
          } catch (InterruptedException stopped) {
            throw new IOException(stopped);
          }
        });
    assertThat(all.getCount()).isZero();
  }

  @Property(tries = 100)
  void afterAFailureNothingIsBegunAndItIsToldOnceAllHaveEnded(
      @ForAll @IntRange(min = 1, max = 6) int atOnce,
      @ForAll @IntRange(min = 1, max = 40) int count,
      @ForAll @IntRange(max = 39) int failing) {
    int bad = failing % count;
    AtomicInteger now = new AtomicInteger();
    Queue<Integer> begun = new ConcurrentLinkedQueue<>();
    assertThatThrownBy(
            () ->
                Several.each(
                    atOnce,
                    upTo(count),
                    thing -> {
                      begun.add(thing);
                      now.incrementAndGet();
                      try {
                        if (thing == bad) {
                          throw new IOException("thing " + bad);
                        }
                      } finally {
                        now.decrementAndGet();
                      }
                    }))
        .isInstanceOf(IOException.class)
        .hasMessage("thing " + bad);
    assertThat(now.get()).isZero();
    assertThat(begun).contains(bad).hasSizeLessThanOrEqualTo(count);
    if (atOnce == 1) {
      assertThat(begun).hasSize(bad + 1);
    }
  }
}
