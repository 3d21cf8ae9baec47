package dev.kavrin.server.job;

import dev.kavrin.server.platform.Events;
import jakarta.annotation.Nullable;
import java.util.UUID;
import org.springframework.http.ProblemDetail;

/** A job while it is done, and until its end is written. */
final class RunningJob implements JobRun {
  private static final long TOLD_EVERY_NANOS = 500_000_000;
  private static final long RENEWED_EVERY_NANOS = 20_000_000_000L;

  private final JobRow row;
  private final Events events;
  private volatile boolean cancelled;
  private volatile boolean news;
  @Nullable private volatile Double share;
  @Nullable private volatile String words;
  @Nullable private volatile End end;
  private long told;
  private long renewed = System.nanoTime();

  /** How it ended. */
  record End(Job.State state, @Nullable String result, @Nullable ProblemDetail problem) {}

  RunningJob(JobRow row, Events events) {
    this.row = row;
    this.events = events;
    this.cancelled = row.cancelled;
  }

  @Override
  public UUID id() {
    return row.uuid;
  }

  String kind() {
    return row.kind;
  }

  @Override
  public String person() {
    return row.person;
  }

  @Override
  public int attempt() {
    return row.attempt;
  }

  @Override
  public boolean isCancelled() {
    return cancelled;
  }

  void cancel() {
    cancelled = true;
  }

  void requireGoingOn() {
    if (cancelled) {
      throw new JobCancelledException();
    }
  }

  @Override
  public void at(double reached, String doing) {
    share = reached < 0 ? null : Math.min(1, reached);
    words = doing;
    news = true;
    long now = System.nanoTime();
    if (now - told > TOLD_EVERY_NANOS) {
      told = now;
      events.changed("jobs");
    }
    requireGoingOn();
  }

  /** True every so often: its lease is renewed while it goes on, told anything or not. */
  boolean isOwed() {
    long now = System.nanoTime();
    boolean owed = now - renewed > RENEWED_EVERY_NANOS;
    renewed = owed ? now : renewed;
    return owed;
  }

  boolean isNews() {
    boolean was = news;
    news = false;
    return was;
  }

  @Nullable
  Double share() {
    return share;
  }

  @Nullable
  String words() {
    return words;
  }

  void over(Job.State state, @Nullable String result, @Nullable ProblemDetail problem) {
    end = new End(state, result, problem);
  }

  boolean isOver() {
    return end != null;
  }

  End end() {
    return end;
  }
}
