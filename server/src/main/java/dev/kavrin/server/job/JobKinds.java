package dev.kavrin.server.job;

import java.util.List;

/** A feature's kinds of jobs, so that they are known after a stop. */
public interface JobKinds {
  List<JobKind<?>> kinds();
}
