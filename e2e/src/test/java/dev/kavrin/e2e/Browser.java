package dev.kavrin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ReducedMotion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** Debian's Chromium on the real interface. */
final class Browser implements AutoCloseable {
  static {
    PlaywrightAssertions.setDefaultAssertionTimeout(120_000);
  }

  private static final Path AXE = Path.of("..", "web", "node_modules", "axe-core", "axe.min.js");

  private final Playwright playwright =
      Playwright.create(
          new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
  private final com.microsoft.playwright.Browser chromium =
      playwright
          .chromium()
          .launch(
              new BrowserType.LaunchOptions()
                  .setExecutablePath(Path.of("/usr/bin/chromium"))
                  .setArgs(
                      List.of(
                          "--no-sandbox",
                          "--disable-background-networking",
                          "--use-angle=swiftshader",
                          "--enable-unsafe-swiftshader")));
  private final BrowserContext context =
      chromium.newContext(
          new com.microsoft.playwright.Browser.NewContextOptions()
              .setViewportSize(1280, 800)
              .setBypassCSP(true)
              .setIgnoreHTTPSErrors(true)
              .setReducedMotion(ReducedMotion.REDUCE)
              .setLocale("en-GB")
              .setTimezoneId("UTC"));
  private final List<String> faults = new ArrayList<>();

  private static final ThreadLocal<Page> ENTERED = new ThreadLocal<>();
  private static final ThreadLocal<String> SHOWN = ThreadLocal.withInitial(() -> "no page");

  Page enter(String link) {
    Page page = context.newPage();
    page.setDefaultTimeout(120_000);
    page.onPageError(faults::add);
    page.navigate(link);
    ENTERED.set(page);
    return page;
  }

  /**
   * Goes to a view by its digit, once there is a page that hears keys; returns once it is the one
   * that is shown.
   */
  static void view(Page page, int digit) {
    assertThat(page.locator("nav a").first()).isVisible();
    page.keyboard().press(String.valueOf(digit));
    assertThat(page.locator("nav a[aria-current=page]")).hasText(Pattern.compile("^" + digit));
  }

  /** What the page threw so far. */
  List<String> faults() {
    return faults;
  }

  /** WCAG 2.2 A and AA by axe: nothing serious or critical. */
  static void checkAccessible(Page page) throws IOException {
    page.evaluate(Files.readString(AXE));
    Object found =
        page.evaluate(
            "() => axe.run(document, {runOnly: ['wcag2a','wcag2aa','wcag21a','wcag21aa','wcag22aa']})"
                + ".then(r => r.violations.filter(v => ['serious','critical'].includes(v.impact))"
                + ".map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + (n.any[0]?.message ?? '')).join(' | ')))");
    assertThat((List<?>) found).as("axe on %s", page.url()).isEmpty();
  }

  /** Address and words of the page entered last, as it is or as it was closed. */
  static String shown() {
    Page page = ENTERED.get();
    if (page != null && !page.isClosed()) {
      SHOWN.set(page.url() + "\n" + page.innerText("body"));
    }
    return SHOWN.get();
  }

  @Override
  public void close() {
    shown();
    ENTERED.remove();
    playwright.close();
  }
}
