package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.kavrin.standin.HeatSetup;
import dev.kavrin.standin.HeatSolver;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * A solver run from its first step to going on from a copy: the rule is typed, steps are taken
 * while the stand-in computes, and what is laid out is proven by computing on from it.
 */
@Tag("full")
class RunStoryTest {
  private Page page;

  private Locator button(String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name)).first();
  }

  private void fill(String label, String value) {
    page.getByLabel(label, new Page.GetByLabelOptions().setExact(true)).first().fill(value);
  }

  private static List<String> copies(Path folder) throws Exception {
    if (Files.notExists(folder)) {
      return List.of();
    }
    try (var all = Files.list(folder)) {
      return all.map(p -> p.getFileName().toString().replaceFirst("\\..*", "")).sorted().toList();
    }
  }

  private static void untilCopies(Path folder, long... steps) {
    List<String> names = LongStream.of(steps).mapToObj("disc-%04d"::formatted).toList();
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies(folder)).isEqualTo(names));
  }

  @Test
  void stepsAreCopiedBySetAndARunGoesOnFromACopy() throws Exception {
    try (Service service = new Service();
        Browser browser = new Browser()) {
      Path work = service.world().resolve("heat");
      Path setup = work.resolve("run-a/disc.setup.json");
      HeatSolver.begin(setup, HeatSetup.brakeDisc(), InstantSource.system());
      Path keep = service.world().resolve("keep");
      Owner.give(service.world());
      page = browser.enter(service.start());
      button("Say where the work lies").click();
      fill("Folder with your files", work.toString());
      fill("These are documents", "*.setup.json");
      assertThat(page.getByText("1 document found")).isVisible();
      fill("Backup folder", keep.toString());
      assertThat(page.getByText("It will be made")).isVisible();
      button("Start backing up").click();
      assertThat(page.getByLabel("Minutes after a change")).isVisible();
      try (Program solver = Program.solver(service, setup, 0)) {
        solver.say("run 3");
        belongTogether();
        everySecondStep();
        Path restarts = keep.resolve("heat/run-a/restart");
        untilCopies(restarts, 2);
        solver.say("run 9");
        untilCopies(restarts, 8, 10, 12);
        untilCopies(keep.resolve("heat/run-a/results"), 5, 10);
        solver.say("run 3");
        untilCopies(restarts, 10, 12, 14);
        untilCopies(keep.resolve("heat/run-a/results"), 5, 10, 15);
      }
      goOnFrom(service, work);
      assertThat(browser.faults()).isEmpty();
    }
  }

  private void belongTogether() throws Exception {
    button("Files of a run").click();
    button("files that belong together…").click();
    fill("Name of the set-up", "{stem}.setup.json");
    fill("Folder of the restart file", "../elsewhere");
    assertThat(page.getByText("must lie below the set-up's")).isVisible();
    assertThat(button("These belong together")).isDisabled();
    fill("Folder of the restart file", "restart");
    fill("Folder of the result", "results");
    assertThat(page.getByText("steps 1 to 3")).isVisible();
    assertThat(page.getByText("3 restart files")).isVisible();
    Browser.checkAccessible(page);
    button("These belong together").click();
    assertThat(page.getByText("change what belongs together")).isVisible();
  }

  private void everySecondStep() {
    fill("Minutes after a change", "0");
    fill("Steps between copies", "2");
    fill("Restart files to keep", "3");
    fill("Steps between kept results", "5");
    assertThat(page.getByText("up to 2 steps")).isVisible();
    button("Apply").click();
    assertThat(button("Nothing to apply")).isDisabled();
  }

  private void goOnFrom(Service service, Path work) throws Exception {
    Browser.view(page, 5);
    assertThat(page.getByText("Run 1 is at step 15; backups could go on from step 14")).isVisible();
    Locator step = page.getByText("run 1, step 10: restart, result");
    assertThat(step).isVisible();
    step.click();
    Browser.checkAccessible(page);
    page.keyboard().press("r");
    assertThat(page.getByText("run-a-from-step-0010").first()).isVisible();
    button("Lay the files out together").click();
    assertThat(page.getByText("3 files laid out and read back.")).isVisible();
    Path again = work.resolve("run-a-from-step-0010");
    Owner.give(again);
    try (Program solver = Program.solver(service, again.resolve("disc.setup.json"), 10)) {
      assertThat(solver.say("run 2")).isEqualTo("ok step 12");
    }
    String computed = "restart/disc-0012.restart.h5";
    assertThat(Files.mismatch(again.resolve(computed), work.resolve("run-a").resolve(computed)))
        .as("the same step as the run that was never interrupted")
        .isEqualTo(-1);
    page.keyboard().press("Escape");
    Browser.view(page, 1);
    assertThat(page.getByText("run-a-from-step-0010/disc.setup.json").last()).isVisible();
  }
}
