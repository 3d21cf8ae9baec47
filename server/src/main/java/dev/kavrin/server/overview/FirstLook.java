package dev.kavrin.server.overview;

import org.springframework.stereotype.Component;

/** Makes the overview once before anybody asks, so that the first page does not wait for it. */
@Component
public class FirstLook {
  private final OverviewController overview;

  FirstLook(OverviewController overview) {
    this.overview = overview;
  }

  public void take() {
    overview.overview();
  }
}
