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
import java.util.regex.Pattern;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The program's own autosave is off: seen, put right, obeyed; then its interval is weighed. */
@Tag("full")
class SettingsStoryTest extends PageStory {
  private static final String OFF =
      "# Tarn Modeller\nsafety.copies = false\nsafety.minutes = 0.02\nsafety.slots = 3\n"
          + "safety.folder = .drafts\n";
  private Path settings;

  @Test
  void whatIsOffIsSeenPutRightAndObeyedAndTheIntervalIsWeighed() throws Exception {
    try (Service service = new Service();
        Browser browser = new Browser()) {
      Path work = Files.createDirectories(service.world().resolve("station"));
      Path model = work.resolve("summit-station.glb");
      Scene scene = new Scene();
      scene.put("Hall", "Body", Shapes.box(8, 4, 5, 20));
      Files.write(model, scene.toGlb());
      settings =
          Files.createDirectories(service.world().resolve("tools")).resolve("modeller.properties");
      Files.writeString(settings, OFF);
      Owner.give(service.world());
      page = browser.enter(service.start());
      button("Say where the work lies").click();
      fill("Folder with your files", work.toString());
      fill("Backup folder", service.world().resolve("keep").toString());
      assertThat(page.getByText("It will be made")).isVisible();
      button("Start backing up").click();
      assertThat(page.getByLabel("Minutes after a change")).isVisible();
      link();
      putRight(model.resolveSibling(".drafts"), service, model);
      brokenByHand();
      advice();
      told();
      inTheOtherLanguage();
      assertThat(browser.faults()).isEmpty();
    }
  }

  private void link() throws Exception {
    Browser.view(page, 2);
    button("Show Kavrin its settings file").click();
    fill("Settings file", settings.toString());
    button("Read it").click();
    assertThat(page.getByLabel("Key that switches its autosave on")).hasValue("safety.copies");
    assertThat(page.getByLabel("Key that time between autosaves")).hasValue("safety.minutes");
    Browser.checkAccessible(page);
    button("Save").click();
    assertThat(page.getByText("The program's own autosave is off.")).isVisible();
  }

  private void putRight(Path drafts, Service service, Path model) throws Exception {
    button("Let Kavrin correct files in that folder").click();
    button("Put it right").click();
    assertThat(page.getByText("Put right")).isVisible();
    assertThat(settings).hasContent(OFF.replace("false", "true"));
    Browser.checkAccessible(page);
    try (Program program = Program.modeller(service, model, settings)) {
      program.say("add Clock");
      await()
          .atMost(Patience.LONG)
          .untilAsserted(() -> assertThat(drafts).isDirectoryContaining("glob:**~*"));
    }
  }

  private void brokenByHand() throws Exception {
    Browser.view(page, 1);
    assertThat(page.getByText("Show and correct")).hasCount(0);
    Files.writeString(settings, OFF);
    assertThat(page.getByText("its own autosave is off, wanted: on")).isVisible();
    button("Show and correct").click();
    button("Put it right").click();
    assertThat(page.getByText("The program's own autosave is off.")).hasCount(0);
    assertThat(settings).hasContent(OFF.replace("false", "true"));
    button("undo").click();
    assertThat(page.getByText("The program's own autosave is off.")).isVisible();
    assertThat(settings).hasContent(OFF);
  }

  private void advice() throws Exception {
    Browser.view(page, 4);
    Locator handle = page.getByRole(AriaRole.SLIDER);
    assertThat(page.getByText(Pattern.compile("^No (crash|work)"))).isVisible();
    button("say otherwise").click();
    fill("Seconds a save of its own holds you up", "5");
    button("say otherwise").click();
    fill("Working hours between crashes", "8");
    assertThat(page.getByText("equally good")).isVisible();
    handle.focus();
    handle.press("End");
    assertThat(page.getByLabel("Minutes after a change")).hasValue("240");
    handle.press("ArrowLeft");
    assertThat(page.getByLabel("Minutes after a change")).hasValue("120");
    assertThat(page.getByText("Nothing tells how often the program writes")).isVisible();
    Browser.checkAccessible(page);
    handle.press("Home");
    assertThat(page.getByLabel("Minutes after a change")).hasValue("0.5");
    button("Apply").click();
    assertThat(button("Nothing to apply")).isDisabled();
  }

  private void told() throws Exception {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Ilse Quarn")).click();
    page.getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName("Notifications")).click();
    assertThat(page.getByText("Nothing can be delivered while no page is open")).isVisible();
    Browser.checkAccessible(page);
    button("Try it").click();
    assertThat(page.getByText("This is the test you asked for.")).isVisible();
    assertThat(page.getByText("Arrived")).isVisible();
    Browser.checkAccessible(page);
    button("Done").click();
    assertThat(page.getByText("This is the test you asked for.")).hasCount(0);
  }

  private void inTheOtherLanguage() throws Exception {
    pick("Deutsch");
    assertThat(page.locator("html")).hasAttribute("lang", "de");
    Browser.view(page, 4);
    assertThat(page.getByText("Sichern alle")).isVisible();
    assertThat(page.getByLabel("Minuten nach einer Änderung")).hasValue("0.5");
    Browser.checkAccessible(page);
    pick("English");
    assertThat(page.locator("html")).hasAttribute("lang", "en");
    assertThat(page.getByLabel("Minutes after a change")).isVisible();
  }

  private void pick(String language) {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Ilse Quarn")).click();
    page.getByRole(AriaRole.MENUITEMRADIO, new Page.GetByRoleOptions().setName(language)).click();
  }
}
