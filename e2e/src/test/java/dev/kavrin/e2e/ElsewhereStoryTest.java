package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.kavrin.annex.AnnexProcess;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Copies go elsewhere by themselves; the machine is lost, and another has everything back. */
@Tag("full")
class ElsewhereStoryTest extends PageStory {
  @TempDir Path folder;

  private static byte[] model(String... parts) throws Exception {
    Scene scene = new Scene();
    for (String part : parts) {
      scene.put(part, "Body", Shapes.box(8, 4, 5, 40));
    }
    return scene.toGlb();
  }

  @Test
  void theStoreIsSwitchedOffAndOnThenTheMachineIsLostAndAnotherHasEverything() throws Exception {
    byte[] newest = model("Hall", "Clock", "Bell");
    try (AnnexProcess annex = new AnnexProcess(folder)) {
      try (Service service = new Service();
          Browser browser = new Browser()) {
        annex.giveKey(service.data());
        Path work = Files.createDirectories(service.world().resolve("station"));
        Files.write(work.resolve("summit-station.glb"), model("Hall"));
        Owner.give(service.data());
        Owner.give(service.world());
        page = browser.enter(service.start());
        keep(work, service.world().resolve("keep"));
        button("Nothing elsewhere").click();
        assertThat(heading()).containsText("would be lost whole");
        Browser.checkAccessible(page);
        button("Add a store").click();
        say(annex);
        button("Ask it and send copies").click();
        assertThat(store()).containsText("1 copy");
        assertThat(store()).containsText("all there");

        annex.close();
        Files.write(work.resolve("summit-station.glb"), model("Hall", "Clock"));
        assertThat(store()).containsText("does not answer");
        assertThat(store()).containsText("1 waiting to be sent");
        annex.startAgain();
        Files.write(work.resolve("summit-station.glb"), newest);
        assertThat(store()).containsText("3 copies");
        assertThat(heading()).containsText("would lose nothing");
        assertThat(page.getByText("▲")).hasCount(0);
        assertThat(browser.faults()).isEmpty();
      }
      comesBack(annex, newest);
    }
  }

  private void comesBack(AnnexProcess annex, byte[] newest) throws Exception {
    try (Service other = new Service();
        Browser browser = new Browser()) {
      annex.giveKey(other.data());
      Owner.give(other.data());
      page = browser.enter(other.start());
      button("Bring projects back from a store").click();
      say(annex);
      button("Show what it has").click();
      button("Choose").click();
      fill("Folder for its files", other.world().resolve("station").toString());
      fill("Folder for its backups", other.world().resolve("keep").toString());
      button("Bring station back").click();
      assertThat(page.getByText("station is back: 1 file written, 3 backups brought")).isVisible();
      Browser.checkAccessible(page);
      assertThat(other.world().resolve("station/summit-station.glb")).hasBinaryContent(newest);
      button("Show the overview").click();
      assertThat(button("All elsewhere")).isVisible();
      assertThat(browser.faults()).isEmpty();
    }
  }

  private void keep(Path work, Path keep) {
    String wanted =
        """
        {"name":"station","folder":"%s","rule":["*.glb"],"recovery":"%s",
         "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT60S","accepted":"PT30M",
          "keep":{"newest":9,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0}}}
        """
            .formatted(work, keep);
    Object status =
        page.evaluate(
            """
            async body => (await fetch('/api/projects', {method: 'POST', body, headers: {
              'Content-Type': 'application/json',
              'X-XSRF-TOKEN': /XSRF-TOKEN=([^;]+)/.exec(document.cookie)[1]}})).status
            """,
            wanted);
    assertThat(status).isEqualTo(202);
  }

  private void say(AnnexProcess annex) {
    page.getByLabel("Bucket, and what names begin with").fill(AnnexProcess.BUCKET + "/tarnwick");
    page.getByLabel("Address of the service").fill(annex.address().toString());
    page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Key"))
        .selectOption("annex.key");
  }

  private Locator heading() {
    return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1));
  }

  private Locator store() {
    return page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Off-site"));
  }
}
