package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/**
 * Work goes out in another format and into an archive and comes back; a picture is moved, led to
 * again, packed with its model, and opened in another Kavrin.
 */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@Tag("full")
class LinksStoryTest {
  private static Demo demo;
  private Page page;

  @BeforeAll
  static void open() throws Exception {
    demo = new Demo();
  }

  @AfterAll
  static void close() throws Exception {
    demo.close();
  }

  @BeforeEach
  void first() {
    page = demo.page;
  }

  private Locator title() {
    return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1));
  }

  private Locator button(String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
  }

  @Test
  @Order(2)
  void aMovedPictureIsLedToAgainAndTheWorkOpensElsewhere() throws Exception {
    try (Service second = new Service();
        Browser elsewhere = new Browser()) {
      Path live = demo.carriage.resolve("carriage-02.glb");
      Browser.view(page, 6);
      assertThat(title()).containsText("has all the rest");
      Locator replace = button("Put aside and replace").last();
      assertThat(replace).isEnabled();
      replace.click();
      assertThat(page.getByTestId("receipt")).containsText("Restored and read back");

      Browser.view(page, 9);
      assertThat(title()).hasText("Everything Carriage uses is there, as it was");
      Path moved = Files.createDirectories(demo.carriage.resolve("stock")).resolve("coach.png");
      Files.move(demo.carriage.resolve("pictures/body.png"), moved);
      page.reload();
      assertThat(title()).hasText("1 file Carriage uses is missing");
      Locator serving =
          page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName("Use it"));
      assertThat(serving.first()).isVisible();
      Browser.checkAccessible(page);
      serving.first().click();
      assertThat(page.getByText("all but these names is what it was")).isVisible();
      button("Put today's file aside and replace it").click();
      assertThat(page.getByTestId("receipt")).containsText("is now stock/coach.png");
      assertThat(title()).hasText("Everything Carriage uses is there, as it was");
      HealthReport relinked = new HealthCheck(new RealDisk()).inspect(live, live.toString());
      assertThat(relinked.verdict().trustworthy()).isTrue();
      assertThat(relinked.inventory().links()).anyMatch(l -> l.uri().equals("stock/coach.png"));

      button("Export a package").click();
      assertThat(page.getByText("data/stock/coach.png")).isVisible();
      Browser.checkAccessible(page);
      Path bag = demo.carriage.resolveSibling("handed-over");
      page.getByLabel("Into the folder").fill(bag.toString());
      page.getByLabel("Mark these versions").fill("issued");
      button("Pack ").last().click();
      assertThat(page.getByText("Packed and read back.")).isVisible();
      assertThat(demo.browser.faults()).isEmpty();

      Path received = second.world().resolve("received");
      Files.move(bag, received);
      Owner.give(second.world());
      page = elsewhere.enter(second.start());
      page.navigate(page.url().replaceFirst("/[^/]*$", "/pack"));
      page.getByLabel("Folder of the bundle").fill(received.toString());
      button("Check").click();
      assertThat(page.getByTestId("bag")).containsText("every digest is right");
      button("Work on from here").click();
      assertThat(page.getByLabel("Folder with your files"))
          .hasValue(received.resolve("data").toString());
      page.getByLabel("Backup folder").fill(second.world().resolve("keep").toString());
      assertThat(page.getByText("It will be made")).isVisible();
      button("Start backing up").click();
      assertThat(page.getByLabel("Minutes after a change")).isVisible();
      Browser.view(page, 9);
      assertThat(title()).hasText("Everything data uses is there, as it was");
      assertThat(page.getByText("stock/coach.png").first()).isVisible();
      assertThat(elsewhere.faults()).isEmpty();
    }
  }

  @Test
  @Order(1)
  void aStateIsWrittenInAnotherFormatAndAFinishedProjectIsArchivedAndComesBack() throws Exception {
    assertThat(title()).containsText("You lost 11 minutes");
    Browser.view(page, 9);
    button("Export a package").click();
    button("Other formats").click();
    Locator formats =
        page.getByRole(AriaRole.RADIOGROUP, new Page.GetByRoleOptions().setName("Format"));
    Locator chosen = formats.locator("[aria-checked=true]");
    assertThat(chosen).hasText("OBJ");
    chosen.focus();
    page.keyboard().press("ArrowRight");
    assertThat(chosen).hasText("PLY");
    assertThat(chosen).isFocused();
    assertThat(page.getByText("Lost on the way: materials")).isVisible();
    Path out = demo.carriage.resolveSibling("out");
    page.getByLabel("Folder for the other format").fill(out.toString());
    button("Write it").click();
    assertThat(page.getByText("Written, ")).isVisible();
    HealthReport written =
        new HealthCheck(new RealDisk()).inspect(out.resolve("carriage-02.ply"), "carriage-02.ply");
    assertThat(written.verdict().trustworthy()).isTrue();

    button("Final archive").click();
    assertThat(page.getByText("of earlier versions that lie elsewhere")).isVisible();
    Browser.checkAccessible(page);
    Path bag = demo.carriage.resolveSibling("archived");
    page.getByLabel("Folder of the archive").fill(bag.toString());
    button("Archive ").last().click();
    assertThat(page.getByTestId("bundle")).containsText("each read back bit for bit");
    page.getByLabel("Folder of the bundle").fill(bag.toString());
    button("Check").click();
    assertThat(page.getByText("It is a final archive of")).isVisible();
    Path back = demo.carriage.resolveSibling("back");
    page.getByLabel("Bring it back into").fill(back.toString());
    button("Bring it back").click();
    assertThat(page.getByTestId("bundle")).containsText("back under their own names");
    for (String name : List.of("carriage-02.glb", "pictures/body.png")) {
      assertThat(back.resolve(name)).hasSameBinaryContentAs(demo.carriage.resolve(name));
    }
    assertThat(back.resolve("earlier versions/carriage-02.glb")).isNotEmptyDirectory();
    assertThat(demo.browser.faults()).isEmpty();
  }
}
