package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** From an empty Kavrin to a restored file, with the stand-in really running and really killed. */
class LiveStoryTest {
  private static void fill(Page page, String label, String value) {
    page.getByLabel(label).first().fill(value);
  }

  private static void leftover(Page page, int n, String kind, String folder, String pattern) {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("add a kind of leftover"))
        .click();
    page.getByLabel("Kind of leftover " + n).selectOption(kind);
    page.getByLabel("Folder of leftover " + n).fill(folder);
    page.getByLabel("Name pattern of leftover " + n).fill(pattern);
  }

  @Test
  void planCaptureCrashFindCompareRestore() throws Exception {
    try (Service service = new Service();
        Browser browser = new Browser()) {
      Path work = Files.createDirectories(service.world().resolve("station"));
      Path model = work.resolve("summit-station.glb");
      Scene scene = new Scene();
      scene.put("Hall", "Body", Shapes.box(8, 4, 5, 60));
      scene.put("Canopy", "Body", Shapes.box(12, 0.1, 3, 60));
      Files.write(model, scene.toGlb());
      Path settings = work.resolve("modeller.properties");
      Files.writeString(settings, "safety.minutes = 600\n");
      Owner.give(service.world());
      Path keep = service.world().resolve("keep");
      Owner.lock(Files.createDirectories(service.world().resolve("locked")));

      Page page = browser.enter(service.start());
      page.getByRole(
              AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Say where the work lies"))
          .click();
      fill(page, "Folder with your files", work.toString());
      assertThat(page.getByText("1 document found")).isVisible();
      page.getByText("Correct it by hand").click();
      fill(page, "Program", "Tarn Modeller");
      fill(page, "Its process", "dev.kavrin.standin.ModellerProcess");
      fill(page, "Lock file", ".{stem}.open");
      leftover(page, 1, "AUTOSAVE", ".drafts", "{stem}~{n}.tmp");
      leftover(page, 2, "KEPT_BY_SAVE", ".", "{stem}.earlier");
      fill(page, "Backup folder", work + "/inside");
      assertThat(page.getByText("inside the work folder")).isVisible();
      fill(page, "Backup folder", service.world() + "/locked");
      assertThat(page.getByText("Kavrin may not write there")).isVisible();
      fill(page, "Backup folder", keep.toString());
      assertThat(page.getByText("It will be made")).isVisible();
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Start backing up"))
          .click();

      assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)))
          .containsText("Plan for station");
      fill(page, "Minutes after a change", "0.1");
      fill(page, "Newest copies to keep", "0");
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("How many exactly"))
          .click();
      fill(page, "Days of hourly copies", "0");
      fill(page, "Days of daily copies", "0");
      assertThat(page.getByText("Zero copies means no safety")).isVisible();
      fill(page, "Newest copies to keep", "7");
      fill(page, "Slots of the ring", "5");
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Apply")).click();
      assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Apply")))
          .isDisabled();

      byte[] autosaved;
      try (Program program = Program.modeller(service, model, settings)) {
        program.say("add Ticket window");
        program.say("save");
        await()
            .atMost(Patience.LONG)
            .untilAsserted(() -> assertThat(copies(keep)).isGreaterThanOrEqualTo(1));
        program.say("add Clock");
        program.say("copy");
        autosaved = Files.readAllBytes(work.resolve(".drafts/summit-station~1.tmp"));
        program.say("add Bell");
        long whole = Files.size(model);
        program.begin("slowsave 150");
        await()
            .atMost(Patience.LONG)
            .pollInterval(Duration.ofMillis(20))
            .until(() -> Files.size(model) > 60_000 && Files.size(model) < whole);
        program.kill();
      }

      Browser.view(page, 1);
      Locator desk =
          page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Recover the file"));
      assertThat(desk).isVisible();
      desk.click();
      assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)))
          .containsText("Copy 1");
      assertThat(page.getByText("Cut short at").first()).isVisible();
      assertThat(
              page.getByRole(AriaRole.LISTITEM)
                  .filter(new Locator.FilterOptions().setHasText("Clock")))
          .containsText("new");
      page.getByRole(
              AriaRole.BUTTON,
              new Page.GetByRoleOptions().setName("Put aside and replace").setExact(true))
          .click();
      assertThat(page.getByTestId("receipt")).containsText("Restored and read back.");
      assertThat(Files.readAllBytes(model)).isEqualTo(autosaved);
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Dealt with")).click();
      assertThat(
              page.getByRole(
                  AriaRole.HEADING, new Page.GetByRoleOptions().setName("What came back")))
          .isVisible();
      Browser.view(page, 1);
      assertThat(page.getByText("Recover the file")).hasCount(0);
      assertThat(browser.faults()).isEmpty();
    }
  }

  private static long copies(Path keep) throws Exception {
    Path folder = keep.resolve("station");
    if (Files.notExists(folder)) {
      return 0;
    }
    try (var all = Files.list(folder)) {
      return all.filter(p -> p.toString().endsWith(".glb")).count();
    }
  }
}
