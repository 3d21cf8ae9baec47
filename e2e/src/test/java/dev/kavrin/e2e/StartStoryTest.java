package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** Nobody types a pattern: Kavrin watches the program once, and a crash is found by that. */
class StartStoryTest extends PageStory {
  @Test
  void watchingTheProgramOnceSetsAllThatItsCrashNeeds() throws Exception {
    try (Service service = new Service();
        Browser browser = new Browser()) {
      Path work = Files.createDirectories(service.world().resolve("station"));
      Path model = work.resolve("summit-station.glb");
      Scene scene = new Scene();
      scene.put("Hall", "Body", Shapes.box(8, 4, 5, 40));
      Files.write(model, scene.toGlb());
      Path settings =
          Files.createDirectories(service.world().resolve("tools")).resolve("modeller.properties");
      Files.writeString(settings, "safety.copies = true\nsafety.minutes = 0.03\n");
      Owner.give(service.world());
      page = browser.enter(service.start());
      button("Say where the work lies").click();
      fill("Folder with your files", work.toString());
      assertThat(page.getByText("Nothing happened to a file yet")).isVisible();
      assertThat(page.getByText("summit-station.glb lies there")).isVisible();
      Browser.checkAccessible(page);

      try (Program program = Program.modeller(service, model, settings)) {
        program.say("add Ticket window");
        program.say("save");
        assertThat(row("Documents")).containsText("summit-station.glb was saved at");
        program.say("add Clock");
        assertThat(row("Its own autosaves")).containsText(".drafts/{stem}~{n}.tmp");
        program.say("close");
      }
      assertThat(row("Lock file")).containsText("went when it was closed");
      assertThat(row("Lock file")).containsText(".{stem}.open");
      assertThat(row("Its process")).containsText("dev.kavrin.standin.ModellerProcess");
      assertThat(row("Kept by each save")).containsText("./{stem}.earlier");
      assertThat(row("Its settings file")).containsText(settings.toString());
      Browser.checkAccessible(page);
      fill("Backup folder", service.world().resolve("keep").toString());
      assertThat(page.getByText("It will be made")).isVisible();
      button("Start backing up").click();
      assertThat(page.getByLabel("Minutes after a change")).isVisible();
      programs();

      try (Program program = Program.modeller(service, model, settings)) {
        program.say("add Bell");
        program.begin("crash");
      }
      Browser.view(page, 1);
      assertThat(button("Recover the file")).isVisible();
      button("Recover the file").click();
      assertThat(page.getByText("Rescue file").or(page.getByText("Program autosave")).first())
          .isVisible();
      assertThat(browser.faults()).isEmpty();
    }
  }

  private Locator row(String topic) {
    return page.getByRole(AriaRole.ROW)
        .filter(new Locator.FilterOptions().setHasText(topic))
        .first();
  }

  /** The sheet goes out as a file and comes back; a path that leads outside needs a yes. */
  private void programs() {
    Browser.view(page, 2);
    assertThat(page.getByText("as wanted")).isVisible();
    String sheet =
        (String)
            page.evaluate(
                "async () => (await fetch(document.querySelector('a[download]').href)).text()");
    assertThat(sheet).contains("kavrin-program-sheet", ".drafts");
    page.getByLabel("Profile to import for station")
        .setInputFiles(
            new FilePayload(
                "sheet.json",
                "application/json",
                sheet
                    .replace("\".drafts\"", "\"/var/elsewhere\"")
                    .getBytes(StandardCharsets.UTF_8)));
    assertThat(page.getByText("It would change nothing here.")).isVisible();
    assertThat(button("Import this profile")).isDisabled();
    page.getByText("Also /var/elsewhere, which leads outside").click();
    button("Import this profile").click();
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("does not lie under a folder");
    button("Leave it").click();
    page.getByText("Edit the profile").click();
    assertThat(page.getByText("finds 1 file now").first()).isVisible();
    button("Leave it as it was").click();
  }
}
