package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** Every way to set when copies are made and where they go, with the stand-in saving for real. */
class PlanStoryTest extends PageStory {
  private Path keep;
  private Path shelf;

  private void apply() {
    button("Apply").click();
    assertThat(button("Nothing to apply")).isDisabled();
  }

  private void tickEverySave() {
    page.getByText("and on every save", new Page.GetByTextOptions().setExact(true)).click();
  }

  private void onThePlan() {
    Browser.view(page, 4);
    assertThat(page.getByLabel("Minutes after a change")).isVisible();
  }

  private static long copies(Path folder) throws Exception {
    Path copies = folder.resolve("station");
    if (Files.notExists(copies)) {
      return 0;
    }
    try (var all = Files.list(copies)) {
      return all.filter(p -> p.toString().endsWith(".glb")).count();
    }
  }

  private static void untilCopies(Path folder, long count) {
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies(folder)).isEqualTo(count));
  }

  @Test
  void cadenceCountsAndFoldersAreSetAndHold() throws Exception {
    try (Service service = new Service();
        Browser browser = new Browser()) {
      Path work = Files.createDirectories(service.world().resolve("station"));
      Path model = work.resolve("summit-station.glb");
      Scene scene = new Scene();
      scene.put("Hall", "Body", Shapes.box(8, 4, 5, 20));
      Files.write(model, scene.toGlb());
      Path settings = work.resolve("modeller.properties");
      Files.writeString(settings, "safety.minutes = 600\n");
      keep = service.world().resolve("keep");
      shelf = service.world().resolve("shelf");
      Owner.give(service.world());
      page = browser.enter(service.start());
      button("Say where the work lies").click();
      fill("Folder with your files", work.toString());
      fill("Backup folder", keep.toString());
      assertThat(page.getByText("It will be made")).isVisible();
      button("Start backing up").click();
      try (Program program = Program.modeller(service, model, settings);
          Drive drive = new Drive(service.world().resolve("drive"), shelf)) {
        everySave(program);
        heldOnPurpose(program, work);
        nextWrite(program);
        severalFolders(program, drive);
        fewer();
      }
      assertThat(browser.faults()).isEmpty();
    }
  }

  private void everySave(Program program) throws Exception {
    fill("Minutes after a change", "0");
    assertThat(page.getByText("No timed copies: only what you copy by hand")).isVisible();
    tickEverySave();
    assertThat(page.getByText("No timed copies")).hasCount(0);
    Browser.checkAccessible(page);
    apply();
    untilCopies(keep, 1);
    program.say("add Clock");
    program.say("save");
    untilCopies(keep, 2);
  }

  private void heldOnPurpose(Program program, Path work) throws Exception {
    button("Pauses").click();
    fill("File that keeps Kavrin away", "*.busy");
    assertThat(page.getByText("Pauses have no limit")).isVisible();
    fill("Minutes of a pause at most", "60");
    assertThat(page.getByText("Pauses have no limit")).hasCount(0);
    apply();
    Path sign = Files.createFile(work.resolve("render.busy"));
    program.say("add Bell");
    program.say("save");
    Browser.view(page, 1);
    assertThat(page.getByText("Paused on purpose")).containsText("render.busy stands");
    assertThat(copies(keep)).isEqualTo(2);
    Files.delete(sign);
    untilCopies(keep, 3);
    assertThat(page.getByText("Paused on purpose")).hasCount(0);
  }

  private void nextWrite(Program program) throws Exception {
    onThePlan();
    tickEverySave();
    apply();
    Browser.view(page, 5);
    button("Back up now").click();
    fill("Note, if you like", "before the bolts");
    button("Wait for the next save").click();
    assertThat(page.getByText("Save in the program now. As soon as")).isVisible();
    button("Done").click();
    assertThat(page.getByText("The next save is backed up at once")).isVisible();
    program.say("add Bolts");
    program.say("save");
    untilCopies(keep, 4);
    assertThat(page.getByText("The next save is backed up at once")).hasCount(0);
    program.say("add Lamp");
    program.say("save");
    assertThat(copies(keep)).as("only that one write").isEqualTo(4);
  }

  private void severalFolders(Program program, Drive drive) throws Exception {
    onThePlan();
    button("Add a folder").click();
    fill("Another backup folder", shelf.toString());
    assertThat(page.getByText("Everything the plan keeps is brought there")).isVisible();
    button("Back up there too").click();
    untilCopies(shelf, 4);
    drive.pull();
    assertThat(page.getByText("away: no backups there")).isVisible();
    tickEverySave();
    apply();
    untilCopies(keep, 5);
    program.say("add Rail");
    program.say("save");
    untilCopies(keep, 6);
    try (var empty = Files.list(shelf)) {
      assertThat(empty).as("the empty mount point").isEmpty();
    }
    drive.plug();
    untilCopies(shelf, 6);
    assertThat(page.getByText("6 backups")).hasCount(2);
  }

  private void fewer() throws Exception {
    fill("Newest copies to keep", "2");
    button("How many exactly").click();
    fill("Days of hourly copies", "0");
    fill("Days of daily copies", "0");
    assertThat(page.getByText("to the bin. They can be restored")).isVisible();
    button("Apply · moves").click();
    assertThat(page.getByRole(AriaRole.ALERT)).hasCount(0);
    assertThat(button("Nothing to apply")).isDisabled();
    untilCopies(keep, 3);
    untilCopies(shelf, 3);
    assertThat(page.getByText("3 backups")).hasCount(2);
  }
}
