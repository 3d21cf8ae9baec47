package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Each view from a telephone's width to a wide screen, light and dark, with nothing, with little
 * and with much, with names that are long or in other scripts, in each language: nothing runs over,
 * nothing lies over something else, axe finds nothing. WCAG 2.2, 1.4.10 Reflow and 1.4.12 Text
 * Spacing.
 */
@Tag("full")
class WidthsTest {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final int[] WIDTHS =
      FULL ? new int[] {360, 768, 1280, 1920, 2560} : new int[] {360, 1280};

  private static final List<String> ALWAYS =
      List.of(
          "overview",
          "start",
          "programs",
          "folders",
          "notifications",
          "people",
          "under-way",
          "recover");

  private static final List<String> OF_A_DOCUMENT =
      List.of("plan", "versions", "recover", "compare", "parts", "links");

  private static final List<String> NAMES =
      List.of(
          "Wagenkasten_mit_einem_sehr_langen_Namen_der_nirgends_umbricht_Fassung_17.glb",
          "carriage-02.glb",
          "ケーブルカー客車の模型・最終版.glb",
          "вагон верхней станции.glb");

  /** What runs over the page's edge, or lies over another thing one can press. */
  private static final String FAULTS =
      """
      () => {
        const found = [];
        const wide = document.documentElement.clientWidth;
        if (document.documentElement.scrollWidth > wide + 1)
          found.push(`the page is ${document.documentElement.scrollWidth} wide`);
        const scrolls = (e) => {
          for (let p = e.parentElement; p; p = p.parentElement) {
            const s = getComputedStyle(p);
            if (/(auto|scroll)/.test(s.overflowX + s.overflowY)
                && (p.scrollWidth > p.clientWidth || p.scrollHeight > p.clientHeight)) return true;
          }
          return false;
        };
        const name = (e) => `${e.tagName} “${(e.ariaLabel ?? e.textContent ?? '').trim().slice(0, 40)}”`;
        const pressed = [...document.querySelectorAll('button, a[href], input, select, textarea')]
          .filter((e) => !e.closest('svg') && e.checkVisibility({visibilityProperty: true, opacityProperty: true}))
          .filter((e) => !e.closest('[aria-hidden=true]') && !e.matches('[type=hidden], [type=file], [aria-hidden=true]'))
          .map((e) => ({e, r: e.getBoundingClientRect(), inside: scrolls(e)}))
          .filter(({r}) => r.width > 2 && r.height > 2);
        for (const {e, r, inside} of pressed)
          if (!inside && (r.right > wide + 1 || r.left < -1)) found.push(`${name(e)} is cut off`);
        for (let i = 0; i < pressed.length; i++)
          for (let j = i + 1; j < pressed.length; j++) {
            const {e: a, r: x} = pressed[i], {e: b, r: y} = pressed[j];
            if (a.contains(b) || b.contains(a) || pressed[i].inside !== pressed[j].inside) continue;
            if (a.closest('label') && a.closest('label') === b.closest('label')) continue;
            const across = Math.min(x.right, y.right) - Math.max(x.left, y.left);
            const down = Math.min(x.bottom, y.bottom) - Math.max(x.top, y.top);
            if (across > 2 && down > 2) found.push(`${name(a)} lies over ${name(b)}`);
          }
        return found;
      }""";

  private static final String THERE =
      "() => document.querySelector('main h1, main h2') && !document.querySelector('main .chakra-spinner')";

  /** Makes a project, and gives its documents once each has a backup. */
  private static final String MAKE =
      """
      async (project) => {
        const token = decodeURIComponent(document.cookie.match(/XSRF-TOKEN=([^;]*)/)[1]);
        const answer = await fetch('/api/projects', {method: 'POST', body: project,
          headers: {'Content-Type': 'application/json', 'X-XSRF-TOKEN': token}});
        const job = await answer.json();
        while (!job.ended) Object.assign(job, await (await fetch(`/api/jobs/${job.id}?wait=15`)).json());
        for (;;) {
          const seen = (await (await fetch('/api/overview')).json()).projects[0].documents;
          if (seen.length === 4 && seen.every((d) => d.copies > 0)) return seen.map((d) => d.id);
          await new Promise((soon) => setTimeout(soon, 500));
        }
      }""";

  private final List<String> faults = new ArrayList<>();

  @Test
  void nothingRunsOverOrLiesOverSomethingElse() throws Exception {
    try (Service service = new Service();
        Browser browser = new Browser()) {
      Page page = browser.enter(service.start());
      look(page, ALWAYS, WIDTHS);
      List<?> documents = (List<?>) page.evaluate(MAKE, project(work(service)));
      List<String> views = new ArrayList<>(ALWAYS);
      documents.stream()
          .limit(FULL ? documents.size() : 1)
          .forEach(d -> OF_A_DOCUMENT.forEach(v -> views.add(v + "/" + d)));
      assertThat(views).hasSizeGreaterThanOrEqualTo(ALWAYS.size() + OF_A_DOCUMENT.size());
      look(page, views, WIDTHS);
      page.evaluate("localStorage.setItem('kavrin.language', 'de')");
      look(page, views, 360, 1280);
      assertThat(faults).isEmpty();
      assertThat(browser.faults()).isEmpty();
    }
  }

  private static Path work(Service service) throws IOException, InterruptedException {
    Path work =
        Files.createDirectories(
            service.world().resolve("Bergstation und Wagen der Standseilbahn, Sanierung 2031"));
    for (String name : NAMES) {
      Scene scene = new Scene();
      scene.put("Frame", "Body", Shapes.box(2, 1, 1, 40));
      Files.write(work.resolve(name), scene.toGlb());
    }
    Owner.give(service.world());
    return work;
  }

  private static String project(Path work) {
    return """
        {"name": "Standseilbahn_Bergstation_und_Wagen_Sanierung_zweiter_Abschnitt", "folder": "%s",
         "rule": ["*.glb"], "recovery": "%s",
         "program": {"name": "Bench", "process": "no-process-has-these-words",
          "leftovers": [{"kind": "AUTOSAVE", "folder": ".drafts", "pattern": "{stem}~{n}.tmp"}]},
         "plan": {"interval": "PT1S", "quiet": "PT2S", "hardLimit": "PT60S", "accepted": "PT30M",
          "keep": {"newest": 6, "hourly": "PT0S", "daily": "PT0S", "weekly": "PT0S", "ring": 0, "room": 0}}}
        """
        .formatted(work, work.resolveSibling("keep"));
  }

  private void look(Page page, List<String> views, int... widths) throws IOException {
    for (int width : widths) {
      page.setViewportSize(width, 800);
      for (String view : views) {
        page.navigate(page.url().replaceFirst("^(https?://[^/]+).*", "$1/") + view);
        page.waitForFunction(THERE);
        faults(page, width + " " + view);
      }
    }
  }

  /** A quick run looks at the dark side of the narrow page only. */
  private void faults(Page page, String where) throws IOException {
    List<ColorScheme> modes =
        FULL || where.startsWith("360")
            ? List.of(ColorScheme.LIGHT, ColorScheme.DARK)
            : List.of(ColorScheme.LIGHT);
    for (ColorScheme mode : modes) {
      page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(mode));
      if (mode == ColorScheme.LIGHT) {
        ((List<?>) page.evaluate(FAULTS)).forEach(f -> faults.add(where + ": " + f));
      }
      try {
        Browser.checkAccessible(page);
      } catch (AssertionError found) {
        faults.add(where + " " + mode + ": " + found.getMessage());
      }
    }
  }
}
