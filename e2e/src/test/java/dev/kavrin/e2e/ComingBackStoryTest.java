package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/** From the crash to the closing page, back as of a moment, and a crash on purpose. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@Tag("full")
class ComingBackStoryTest {
  private static Demo demo;
  private static Page page;
  private static Path live;

  @BeforeAll
  static void open() throws Exception {
    demo = new Demo();
    page = demo.page;
    live = demo.carriage.resolve("carriage-02.glb");
  }

  @AfterAll
  static void close() throws Exception {
    demo.close();
  }

  private static Locator title() {
    return page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1));
  }

  private static Locator button(String name) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
  }

  private static int parts() {
    return new HealthCheck(new RealDisk())
        .inspect(live, live.toString())
        .inventory()
        .parts()
        .size();
  }

  @Test
  @Order(1)
  void theDeskGoesOnAfterAReloadAndEndsWithWhatWouldHaveSavedMost() throws Exception {
    assertThat(title()).hasText("You lost 11 minutes in Carriage, carriage-02.glb");
    Browser.view(page, 6);
    assertThat(title()).containsText("has all the rest");
    Locator replace = button("Put aside and replace").last();
    assertThat(replace).isEnabled();
    replace.click();
    assertThat(page.getByTestId("receipt")).isVisible();
    page.reload();
    assertThat(page.getByTestId("receipt")).containsText("Restored and read back");
    assertThat(
            page.getByRole(AriaRole.LIST, new Page.GetByRoleOptions().setName("Steps"))
                .locator("[aria-current=step]"))
        .hasText("4 Proof");
    button("Dealt with").click();
    assertThat(title()).hasText("11 minutes were lost in the end; all the rest is back");
    assertThat(page.getByTestId("hindsight"))
        .containsText("Tarn Modeller saving a copy of its own every 5 minutes would have saved");
    Browser.checkAccessible(page);
  }

  @Test
  @Order(2)
  void theProjectGoesBackAsOfAMomentAndForthAgain() throws Exception {
    byte[] today = Files.readAllBytes(live);
    int partsToday = parts();
    Browser.view(page, 5);
    Locator rows =
        page.getByRole(
                AriaRole.REGION, new Page.GetByRoleOptions().setName("Versions of this document"))
            .getByRole(AriaRole.ROW);
    rows.nth(9).click();
    assertThat(rows.nth(9)).hasAttribute("aria-selected", "true");
    page.keyboard().press("g");
    assertThat(title()).containsText("1 of 3 documents goes back to");
    Browser.checkAccessible(page);
    Locator together = button("Put aside and restore 1 document together");
    assertThat(together).isEnabled();
    page.keyboard().press("r");
    assertThat(page.getByText("read back in full.").first()).isVisible();
    assertThat(parts()).isLessThan(partsToday);
    assertThat(Files.readAllBytes(live)).isNotEqualTo(today);
    button("undo all").first().click();
    assertThat(page.getByText("Undone:").first()).isVisible();
    assertThat(Files.readAllBytes(live)).isEqualTo(today);
  }

  @Test
  @Order(3)
  void aCrashOnPurposeIsRecordedWithItsDate() throws Exception {
    byte[] today = Files.readAllBytes(live);
    Browser.view(page, 4);
    button("Recovery test").click();
    assertThat(title()).hasText("No recovery test of this plan was made.");
    for (String way :
        new String[] {"killed while nobody saved", "the drive with the work is gone"}) {
      Locator radio = page.getByRole(AriaRole.RADIO, new Page.GetByRoleOptions().setName(way));
      radio.click();
      assertThat(radio).hasAttribute("aria-checked", "true");
      assertThat(button("Crash a copy")).isEnabled();
      page.keyboard().press("x");
      assertThat(page.getByTestId("proof"))
          .containsText(Pattern.compile("It came back; .* of work were lost"));
      assertThat(page.getByTestId("proof")).containsText(way);
    }
    assertThat(title()).containsText("was proven");
    Browser.checkAccessible(page);
    Browser.view(page, 1);
    assertThat(button("Recovery tested").first()).isVisible();
    assertThat(Files.readAllBytes(live)).isEqualTo(today);
  }

  @Test
  @Order(4)
  void aCopyToTryLiesAsideAndTheWordAboutItStays() throws Exception {
    byte[] today = Files.readAllBytes(live);
    Browser.view(page, 5);
    Locator rows =
        page.getByRole(
                AriaRole.REGION, new Page.GetByRoleOptions().setName("Versions of this document"))
            .getByRole(AriaRole.ROW);
    rows.nth(9).click();
    assertThat(rows.nth(9)).hasAttribute("aria-selected", "true");
    page.keyboard().press("r");
    button("Lay out a copy to try").click();
    Locator trial = page.getByTestId("trial");
    assertThat(trial).containsText("It can be read, not written.");
    Matcher path = Pattern.compile("(/\\S+?\\.glb)").matcher(trial.textContent());
    assertThat(path.find()).isTrue();
    Path copy = Path.of(path.group(1));
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(copy)))
        .isEqualTo("r--r--r--");
    assertThat(
            new HealthCheck(new RealDisk()).inspect(copy, copy.toString()).verdict().trustworthy())
        .isTrue();
    button("it opens").click();
    assertThat(page.getByText("It opens, says Ilse Quarn.")).isVisible();
    assertThat(Files.readAllBytes(live)).isEqualTo(today);
  }
}
