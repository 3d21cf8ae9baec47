package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.LoadState;
import com.microsoft.playwright.options.SelectOption;
import dev.kavrin.core.chunk.ContentHash;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/**
 * The demo as a new user meets it: from the crash to the right restored file, by keyboard alone.
 */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@Order(1)
class DemoStoryTest {
  private static Demo demo;
  private static Page page;
  private static Path carriage;

  @BeforeAll
  static void open() throws Exception {
    demo = new Demo();
    page = demo.page;
    carriage = demo.carriage;
  }

  @AfterAll
  static void close() throws Exception {
    demo.close();
  }

  private static Locator title() {
    return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1));
  }

  @Test
  @Order(1)
  void theOverviewSaysFirstWhatWasLost() throws Exception {
    assertThat(title()).hasText("You lost 11 minutes in Carriage, carriage-02.glb");
    assertThat(page.getByText("summit-station.glb").last()).isVisible();
    Browser.checkAccessible(page);
  }

  @Test
  @Order(2)
  void everyViewIsAccessibleInLightAndDark() throws Exception {
    for (String mode : new String[] {"light", "dark"}) {
      for (int digit = 1; digit <= 8; digit++) {
        Browser.view(page, digit);
        assertThat(title()).isVisible();
        assertThat(
                page.getByRole(AriaRole.STATUS)
                    .filter(new Locator.FilterOptions().setHasText("Reading")))
            .hasCount(0);
        Browser.checkAccessible(page);
      }
      page.getByRole(
              AriaRole.BUTTON,
              new Page.GetByRoleOptions()
                  .setName(mode.equals("light") ? "dark" : "light")
                  .setExact(true))
          .click();
    }
    page.navigate(page.url().replaceFirst("(https?://[^/]+/).*", "$1start"));
    assertThat(title()).hasText("Where does your work lie?");
    Browser.checkAccessible(page);
  }

  @Test
  @Order(3)
  void theTrailShowsStatesByTheWorkAndAnswersToKeys() {
    Browser.view(page, 5);
    assertThat(title()).containsText("11 minutes lost");
    Locator table =
        page.getByRole(
            AriaRole.REGION, new Page.GetByRoleOptions().setName("Versions of this document"));
    assertThat(
            table.getByText(
                "11 min before the crash", new Locator.GetByTextOptions().setExact(true)))
        .isVisible();
    assertThat(table.getByText("damaged").first()).isVisible();
    Locator chosen = page.getByRole(AriaRole.COMPLEMENTARY);
    page.keyboard().press("[");
    assertThat(table.locator("[aria-selected=true]")).containsText("21 min before the crash");
    page.keyboard().press("p");
    assertThat(chosen.getByText("Unpin")).isVisible();
    page.keyboard().press("p");
    assertThat(chosen.getByText("Unpin")).hasCount(0);
    page.keyboard().press("/");
    page.keyboard().type("rescue");
    assertThat(page.getByText("1 of ")).isVisible();
    page.keyboard().press("Escape");
    page.evaluate("document.activeElement.blur()");
    tellScriptTimeOfMoves();
  }

  /** Goes to and fro; what that takes of the page's script is told, and decides nothing. */
  private static void tellScriptTimeOfMoves() {
    com.microsoft.playwright.CDPSession session = page.context().newCDPSession(page);
    session.send("Performance.enable");
    double before = scriptSeconds(session);
    for (int i = 0; i < 10; i++) {
      page.keyboard().press("[");
      page.keyboard().press("]");
    }
    System.out.printf(
        "Wake: %.1f ms of script a move%n", (scriptSeconds(session) - before) / 20 * 1000);
  }

  private static double scriptSeconds(com.microsoft.playwright.CDPSession session) {
    for (com.google.gson.JsonElement metric :
        session.send("Performance.getMetrics").getAsJsonArray("metrics")) {
      if (metric.getAsJsonObject().get("name").getAsString().equals("ScriptDuration")) {
        return metric.getAsJsonObject().get("value").getAsDouble();
      }
    }
    throw new IllegalStateException("The browser tells no script time");
  }

  @Test
  @Order(4)
  void comparisonFindsTheHandrailThatWasSavedOverTheDayBefore() {
    page.keyboard().press("Tab");
    page.evaluate("document.activeElement.blur()");
    Browser.view(page, 7);
    Locator a = page.getByLabel("Version A");
    assertThat(a).isVisible();
    String daysBefore =
        (String) a.evaluate("s => s.options[Math.floor(s.options.length * 0.6)].value");
    a.selectOption(daysBefore);
    assertThat(
            page.getByRole(AriaRole.LISTITEM)
                .filter(new Locator.FilterOptions().setHasText("Handrail outer")))
        .containsText("gone");
    assertThat(page.locator("[data-state=shown]")).isVisible();
    partsAreSearchedAndTheComparisonIsTakenAlong();
  }

  private void partsAreSearchedAndTheComparisonIsTakenAlong() {
    Locator parts = page.getByRole(AriaRole.LISTITEM);
    page.keyboard().press("/");
    page.keyboard().type("handrail outer");
    assertThat(parts).hasCount(1);
    page.getByLabel("Find a part").fill("no such thing");
    assertThat(page.getByText("No part has that in its name")).isVisible();
    page.getByLabel("Find a part").fill("");
    page.getByLabel("Order of the parts").selectOption("place");
    Locator same = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("the same"));
    int differing = parts.count();
    same.click();
    assertThat(parts.nth(differing + 5)).isVisible();
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("say how much")).click();
    page.getByLabel("Length up to which parts count as the same").fill("90000");
    assertThat(title()).containsText("lacks");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("what the files tell"))
        .click();
    com.microsoft.playwright.Download table =
        page.waitForDownload(
            () ->
                page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("as a table"))
                    .click());
    org.assertj.core.api.Assertions.assertThat(table.suggestedFilename())
        .isEqualTo("comparison.csv");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("what is read")).click();
    assertThat(page.getByText("ISO/IEC 12113")).isVisible();
    // It hears keys once it has the focus.
    assertThat(page.locator("[role=dialog]:focus-within")).isVisible();
    page.keyboard().press("Escape");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("on paper")).click();
    assertThat(page.getByText("parts are the same.")).isVisible();
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Back to the picture"))
        .click();
    assertThat(parts.first()).isVisible();
  }

  @Test
  @Order(5)
  void aLostPartIsFoundWithoutItsNameByKeyboardAlone() {
    Instant begun = Instant.now();
    Browser.view(page, 8);
    assertThat(title())
        .hasText("2 parts have gone in the last 7 days, the largest is Handrail outer");
    Locator parts = page.getByRole(AriaRole.LISTBOX);
    assertThat(parts.locator("[aria-selected=true]")).containsText("Handrail outer");
    assertThat(page.getByText("Compare that with now")).isVisible();
    page.keyboard().press("c");
    assertThat(
            page.getByRole(AriaRole.LIST, new Page.GetByRoleOptions().setName("Parts that differ")))
        .containsText("Handrail outer");
    Browser.view(page, 8);
    assertThat(parts).isVisible();
    page.keyboard().press("g");
    Locator chosen = page.getByRole(AriaRole.COMPLEMENTARY);
    assertThat(chosen).isVisible();
    page.keyboard().press("c");
    assertThat(title()).not().hasText("Comparing");
    System.out.printf(
        "A lost part found, gone to and compared by keyboard in %.1f s%n",
        Duration.between(begun, Instant.now()).toMillis() / 1000.0);
    Browser.view(page, 8);
    assertThat(parts).isVisible();
    page.keyboard().press("/");
    page.keyboard().type("lamp");
    assertThat(
            page.getByRole(
                AriaRole.REGION, new Page.GetByRoleOptions().setName("Found in all projects")))
        .containsText("Trial lamp");
    page.keyboard().press("Escape");
  }

  @Test
  @Order(6)
  void aSaveThatTookMuchAwayIsAskedAboutUntilAnswered() {
    Browser.view(page, 1);
    Locator questions =
        page.getByRole(
            AriaRole.REGION, new Page.GetByRoleOptions().setName("Questions about saves"));
    assertThat(questions).containsText("3 of 5 parts went: Canopy, Platform, Ticket window");
    questions.getByText("See what went").click();
    assertThat(title()).containsText("lacks 3");
    Browser.view(page, 1);
    questions.getByText("It was meant").click();
    assertThat(questions).hasCount(0);
  }

  @Test
  @Order(7)
  void pointingAtASpotTellsWhatUsedToBeThere() throws Exception {
    choose("summit-station.glb");
    Browser.view(page, 8);
    assertThat(title()).containsText("have gone");
    page.keyboard().press("s");
    Locator picture = page.getByRole(AriaRole.APPLICATION);
    assertThat(picture).isFocused();
    Browser.checkAccessible(page);
    for (int i = 0; i < 8; i++) {
      page.keyboard().press("ArrowDown");
    }
    page.keyboard().press("Enter");
    assertThat(page.getByText("Used to be here · 1")).isVisible();
    assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(2)))
        .hasText("Ticket window");
    page.keyboard().press("s");
    assertThat(page.getByRole(AriaRole.LISTBOX)).isVisible();
  }

  @Test
  @Order(7)
  void eachKindShowsItsOwnDifference() {
    choose("summit-station.glb");
    Map<String, String> shown = new LinkedHashMap<>();
    shown.put("winding-gear", "of B differ from A");
    shown.put("sheet-01", "Both drawings over each other");
    shown.put("brake-disc", "B − A: temperature");
    shown.put("summit-station.glb", "Picture of the comparison");
    Browser.view(page, 5);
    assertThat(page.getByText(Pattern.compile("^/.*/summit-station[^/]*$")).first()).isVisible();
    shown.forEach(
        (document, picture) -> {
          choose(document);
          Browser.view(page, 7);
          if (document.equals("brake-disc")) {
            pick("Version A", "step 165");
            pick("Version B", "step 170");
          }
          assertThat(
                  page.getByRole(AriaRole.IMG, new Page.GetByRoleOptions().setName(picture))
                      .first())
              .isVisible();
        });
    choose("carriage-02");
    tellTimeOfSteps();
  }

  /** From the key to the first frame whose picture and tree are of the next state. */
  private static void tellTimeOfSteps() {
    Browser.view(page, 7);
    assertThat(page.getByText("comparing…")).hasCount(0);
    List<Object> millis = new ArrayList<>();
    for (int step = 0; step < 4; step++) {
      page.waitForLoadState(LoadState.NETWORKIDLE);
      millis.add(
          page.evaluate(
              """
              () => new Promise((done) => {
                const shown = () => document.querySelector("main")?.innerText ?? "";
                const before = shown();
                const from = performance.now();
                const look = () =>
                  shown() !== before && !shown().includes("comparing…")
                    ? done(Math.round(performance.now() - from))
                    : requestAnimationFrame(look);
                window.dispatchEvent(new KeyboardEvent("keydown", { key: "[" }));
                requestAnimationFrame(look);
              })
              """));
    }
    System.out.printf("Stepping through versions: %s ms each%n", millis);
    assertThat(millis).hasSize(4);
  }

  private static void pick(String side, String state) {
    Locator states = page.getByLabel(side);
    states.selectOption(
        states
            .locator("option")
            .filter(new Locator.FilterOptions().setHasText(state))
            .first()
            .getAttribute("value"));
    page.evaluate("document.activeElement.blur()");
  }

  private static void choose(String document) {
    Locator documents = page.getByRole(AriaRole.BANNER).getByRole(AriaRole.COMBOBOX);
    Locator option =
        documents
            .locator("option")
            .filter(new Locator.FilterOptions().setHasText(document))
            .first();
    documents.selectOption(option.getAttribute("value"));
    assertThat(page.getByText(Pattern.compile("^/.*/" + document + "[^/]*$")).first()).isVisible();
    page.evaluate("document.activeElement.blur()");
  }

  @Test
  @Order(8)
  void theDeskLeadsToTheRestoredFileByKeyboardAlone() throws Exception {
    Instant began = Instant.now();
    byte[] damaged = Files.readAllBytes(carriage.resolve("carriage-02.glb"));
    Path best = newestAutosave();
    page.navigate(page.url().replaceFirst("(https?://[^/]+/).*", "$1overview"));
    assertThat(title()).containsText("You lost 11 minutes");
    Browser.view(page, 6);
    assertThat(title()).containsText("You lost 11 minutes.");
    assertThat(page.getByText("new, 1").first()).isVisible();
    Locator button =
        page.getByRole(
            AriaRole.BUTTON,
            new Page.GetByRoleOptions().setName("Put aside and replace").setExact(true));
    assertThat(button).isEnabled();
    tabTo("Put aside and replace");
    page.keyboard().press("Enter");
    Locator receipt = page.getByTestId("receipt");
    assertThat(receipt).containsText("Restored and read back.");

    byte[] restored = Files.readAllBytes(carriage.resolve("carriage-02.glb"));
    assertThat(restored).isEqualTo(Files.readAllBytes(best));
    assertThat(receipt).containsText(ContentHash.of(restored).digest());
    assertThat(Duration.between(began, Instant.now())).isLessThan(Duration.ofMinutes(2));
    Browser.checkAccessible(page);

    tabTo("Undo: swap the two files back");
    page.keyboard().press("Enter");
    assertThat(receipt).containsText("Undone.");
    assertThat(Files.readAllBytes(carriage.resolve("carriage-02.glb"))).isEqualTo(damaged);
    assertThat(demo.browser.faults()).isEmpty();
  }

  /** Two files from an old laptop, under names that tell nothing, in a kind nobody can read. */
  @Test
  @Order(9)
  void whatGoesByAnotherNameIsFoundByItsContent() throws Exception {
    page.navigate(page.url().replaceFirst("(https?://[^/]+/).*", "$1folders"));
    button("Look everywhere now").click();
    Locator older =
        page.getByRole(AriaRole.ROW)
            .filter(new Locator.FilterOptions().setHasText("export 0412.dat"));
    assertThat(older).containsText("winding-gear.tgm");
    assertThat(older).containsText("of its bytes are known from there");
    Browser.checkAccessible(page);
    older.getByText("It is one").click();
    assertThat(older).containsText("among its versions");
    page.getByRole(AriaRole.ROW)
        .filter(new Locator.FilterOptions().setHasText("export 0413.dat"))
        .getByText("It is not")
        .click();
    assertThat(
            page.getByRole(AriaRole.ROW)
                .filter(new Locator.FilterOptions().setHasText("export 0413.dat")))
        .containsText("refused");

    page.getByLabel("Project and document")
        .selectOption(new SelectOption().setLabel("Winding gear / winding-gear.tgm"));
    assertThat(title()).containsText("whether unsaved work stands open is unknown");
    page.evaluate("document.activeElement.blur()");
    Locator table =
        page.getByRole(
            AriaRole.REGION, new Page.GetByRoleOptions().setName("Versions of this document"));
    assertThat(table.getByText("Stray")).isVisible();
    table.getByText(Pattern.compile("\\d\\d:\\d\\d–\\d\\d:\\d\\d")).click();
    Locator chosen = page.getByRole(AriaRole.COMPLEMENTARY);
    assertThat(chosen).containsText("Its number 3 puts it at");
    assertThat(chosen).containsText("it was copied");
    button("Check again").click();
    assertThat(chosen.getByRole(AriaRole.STATUS)).containsText("ead again");
    Browser.view(page, 7);
    assertThat(page.getByText("Kavrin cannot look inside this kind of file")).isVisible();
    Browser.checkAccessible(page);
    assertThat(demo.browser.faults()).isEmpty();
  }

  private static Locator button(String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name)).first();
  }

  /** By keyboard: what has gone, brought into today's file, proven, and taken out again. */
  @Test
  @Order(11)
  void aLostPartIsBroughtIntoTodaysFileAndTakenOutAgain() throws Exception {
    Path live = carriage.getParent().resolve("station/summit-station.glb");
    byte[] today = Files.readAllBytes(live);
    choose("summit-station.glb");
    Browser.view(page, 8);
    assertThat(page.getByRole(AriaRole.LISTBOX).locator("[aria-selected=true]"))
        .containsText("Canopy");
    assertThat(page.getByText("Bring it back")).isVisible();
    page.keyboard().press("b");
    Locator tray =
        page.getByRole(
            AriaRole.REGION,
            new Page.GetByRoleOptions().setName("Parts to bring into today's file"));
    assertThat(tray).containsText("Canopy");
    page.keyboard().press("t");
    Locator dialog = page.getByRole(AriaRole.DIALOG);
    assertThat(dialog).containsText("1 part equals what it was, 4 others are equal to today's");
    assertThat(dialog.getByRole(AriaRole.IMG).first()).isVisible();
    Browser.checkAccessible(page);
    assertThat(Files.readAllBytes(live)).isEqualTo(today);
    tabTo("Put today's file aside and replace it");
    page.keyboard().press("Enter");
    Locator receipt = page.getByTestId("receipt");
    assertThat(receipt).containsText("Canopy, which was gone");
    assertThat(validated(live)).startsWith("0 errors");
    assertThat(Files.readAllBytes(live)).isNotEqualTo(today);
    tabTo("Undo: swap the two files back");
    page.keyboard().press("Enter");
    assertThat(receipt).containsText("Undone.");
    assertThat(Files.readAllBytes(live)).isEqualTo(today);
    page.keyboard().press("Escape");
  }

  /** What the Khronos glTF validator (npm gltf-validator) says. */
  private static String validated(Path file) throws Exception {
    Path tool = Path.of("..", "web", "tools", "validate-glb.mjs").toAbsolutePath().normalize();
    Process process = new ProcessBuilder("node", tool.toString(), file.toString()).start();
    return new String(process.getInputStream().readAllBytes());
  }

  private static void tabTo(String button) {
    for (int i = 0; i < 120; i++) {
      page.keyboard().press("Tab");
      Object focused =
          page.evaluate(
              "() => document.activeElement.getAttribute('role') === 'radio' ? '' : document.activeElement.textContent");
      if (button.equals(focused)) {
        return;
      }
    }
    throw new AssertionError("The keyboard does not get to " + button);
  }

  private static Path newestAutosave() throws Exception {
    try (var drafts = Files.list(carriage.resolve(".drafts"))) {
      return drafts
          .filter(p -> p.toString().endsWith(".tmp"))
          .max(java.util.Comparator.comparing(p -> p.toFile().lastModified()))
          .orElseThrow();
    }
  }
}
