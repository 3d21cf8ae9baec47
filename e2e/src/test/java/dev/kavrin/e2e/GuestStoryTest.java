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
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Somebody is invited, signs in over TLS, restores, is named in the record, and is signed out. */
class GuestStoryTest extends PageStory {
  private static final String PASSWORD = "six winches on the incline";

  private static Path model(Service service, String project) throws Exception {
    Path work = Files.createDirectories(service.world().resolve(project));
    Path model = work.resolve(project + ".glb");
    Files.write(model, scene(2));
    return model;
  }

  private static byte[] scene(int width) {
    Scene scene = new Scene();
    scene.put("Hall", "Body", Shapes.box(width, 4, 5, 20));
    return scene.toGlb();
  }

  private static long backups(Path keep, String project) throws Exception {
    Path folder = keep.resolve(project);
    if (Files.notExists(folder)) {
      return 0;
    }
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(p -> p.toString().endsWith(".glb")).count();
    }
  }

  /** Makes a project as the page does, and waits for it. */
  private static final String MAKE =
      """
      async (project) => {
        const token = decodeURIComponent(document.cookie.match(/XSRF-TOKEN=([^;]*)/)[1]);
        const answer = await fetch('/api/projects', {method: 'POST', body: project,
          headers: {'Content-Type': 'application/json', 'X-XSRF-TOKEN': token}});
        const job = await answer.json();
        while (!job.ended) Object.assign(job, await (await fetch(`/api/jobs/${job.id}?wait=15`)).json());
        return job.state;
      }""";

  private void protect(Service service, Path model) {
    Path work = model.getParent();
    String project =
        """
        {"name":"%s","folder":"%s","rule":["*.glb"],"recovery":"%s",
         "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT4H","keep":{"newest":9,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
        """
            .formatted(work.getFileName(), work, service.world().resolve("keep"));
    assertThat(page.evaluate(MAKE, project)).isEqualTo("DONE");
  }

  private void invite(String name, String project) {
    button("Ilse Quarn").click();
    page.getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName("People and sign-in"))
        .click();
    fill("Name of whom you invite", name);
    Locator form =
        page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Invite somebody"))
            .locator("..");
    form.getByLabel("May").selectOption("RESTORE");
    form.getByLabel("In", new Locator.GetByLabelOptions().setExact(true))
        .selectOption(new com.microsoft.playwright.options.SelectOption().setLabel(project));
    form.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Allow")).click();
    assertThat(page.getByText("May back up and restore in " + project)).isVisible();
    form.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Invite")).click();
  }

  @Test
  void invitedSignedInRestoredNamedAndSignedOutElsewhere() throws Exception {
    try (Service service = new Service();
        Browser ours = new Browser();
        Browser theirs = new Browser();
        Browser elsewhere = new Browser()) {
      service.behindTls();
      Path station = model(service, "station");
      Path tower = model(service, "tower");
      byte[] first = Files.readAllBytes(station);
      Owner.give(service.world());
      String link = service.start();
      assertThat(link).startsWith("https://");
      page = ours.enter(link);
      assertThat(button("Say where the work lies")).isVisible();
      protect(service, station);
      protect(service, tower);
      page.reload();
      Path keep = service.world().resolve("keep");
      await().atMost(Patience.LONG).until(() -> backups(keep, "station") == 1);
      Files.write(station, scene(9));

      invite("Maren Holt", "station");
      Locator shown = page.getByText("/invitation?token=");
      assertThat(shown).isVisible();
      Browser.checkAccessible(page);

      Page guest = theirs.enter(shown.innerText());
      guest.getByLabel("Password").fill(PASSWORD);
      guest.getByLabel("The same again").fill(PASSWORD);
      Browser.checkAccessible(guest);
      guest.getByLabel("The same again").press("Enter");
      restores(guest, station, first);
      signsOutElsewhere(guest, elsewhere.enter(link.replaceFirst("/api/.*", "/overview")));
      assertThat(ours.faults()).isEmpty();
      assertThat(theirs.faults()).isEmpty();
    }
  }

  private static void restores(Page guest, Path station, byte[] first) throws Exception {
    assertThat(guest.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("station.glb")))
        .isVisible();
    assertThat(guest.getByText("tower")).hasCount(0);
    assertThat(guest.locator("nav").getByText("Folders")).hasCount(0);
    guest.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("station.glb")).click();
    assertThat(guest.locator("nav a[aria-current=page]")).containsText("Versions");
    Locator rows =
        guest
            .getByRole(
                AriaRole.REGION, new Page.GetByRoleOptions().setName("Versions of this document"))
            .getByRole(AriaRole.ROW);
    rows.last().click();
    guest.keyboard().press("r");
    guest
        .getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Put aside and replace"))
        .click();
    Locator receipt = guest.getByTestId("receipt");
    assertThat(receipt).containsText("Restored and read back.");
    assertThat(receipt).containsText("By Maren Holt");
    assertThat(Files.readAllBytes(station)).isEqualTo(first);
    guest.keyboard().press("Escape");
  }

  private static void signsOutElsewhere(Page guest, Page elsewhere) {
    assertThat(elsewhere.getByText("Sign in to Kavrin")).isVisible();
    elsewhere.getByLabel("Name").fill("Maren Holt");
    elsewhere.getByLabel("Password").fill("not the password");
    elsewhere.getByLabel("Password").press("Enter");
    assertThat(elsewhere.getByText("Name and password do not go together.")).isVisible();
    elsewhere.getByLabel("Password").fill(PASSWORD);
    elsewhere.getByLabel("Password").press("Enter");
    assertThat(
            elsewhere.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("station.glb")))
        .isVisible();
    guest.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Maren Holt")).click();
    guest
        .getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName("Sessions and password"))
        .click();
    guest.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign out there")).click();
    assertThat(guest.getByText("Sign out there")).hasCount(0);
    elsewhere.reload();
    assertThat(elsewhere.getByText("Sign in to Kavrin")).isVisible();
  }
}
