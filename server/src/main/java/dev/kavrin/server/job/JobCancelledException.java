package dev.kavrin.server.job;

/** A person cancelled the job; what was done so far is whole. */
public final class JobCancelledException extends RuntimeException {
  private static final long serialVersionUID = 1;
}
