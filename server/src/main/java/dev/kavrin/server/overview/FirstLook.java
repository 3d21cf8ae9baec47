package dev.kavrin.server.overview;

import dev.kavrin.server.platform.Outside;
import dev.kavrin.server.platform.OwnCertificate;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.List;
import java.util.regex.Pattern;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Opens the first page once before anybody does: door, page, its scripts, session and overview, the
 * way a browser would. So the first person does not wait for what only the first visit costs.
 */
public final class FirstLook {
  private static final Logger LOG = LoggerFactory.getLogger(FirstLook.class);
  private static final Pattern ASSET = Pattern.compile("(?:src|href)=\"(/assets/[^\"]+)\"");
  private static final List<String> ROUND = List.of("/", "/api/session", "/api/overview");
  private static final int ROUNDS = 3;

  private final CookieManager cookies = new CookieManager();
  private final HttpClient browser;

  /**
   * @param outside how the service answers off loopback, null if it does not
   * @throws IOException its certificate cannot be read
   */
  public FirstLook(@Nullable Outside outside) throws IOException {
    HttpClient.Builder builder =
        HttpClient.newBuilder().cookieHandler(cookies).followRedirects(HttpClient.Redirect.NORMAL);
    this.browser =
        (outside == null ? builder : builder.sslContext(OwnCertificate.trusted(outside))).build();
  }

  /**
   * @param link a link that opens the door once; used up
   */
  public void take(URI link) throws InterruptedException {
    try {
      String page = read(link);
      for (String asset : ASSET.matcher(page).results().map(r -> r.group(1)).toList()) {
        read(link.resolve(asset));
      }
      for (int round = 0; round < ROUNDS; round++) {
        for (String path : ROUND) {
          read(link.resolve(path));
        }
      }
      leave(link);
    } catch (IOException e) {
      LOG.warn("The first page could not be opened ahead of its first visitor", e);
    }
  }

  /** Nobody is signed in here any more. */
  private void leave(URI link) throws IOException, InterruptedException {
    String token =
        cookies.getCookieStore().getCookies().stream()
            .filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue)
            .findFirst()
            .orElse("");
    browser.send(
        HttpRequest.newBuilder(link.resolve("/api/session"))
            .header("X-XSRF-TOKEN", token)
            .DELETE()
            .build(),
        BodyHandlers.discarding());
  }

  private String read(URI address) throws IOException, InterruptedException {
    return browser.send(HttpRequest.newBuilder(address).build(), BodyHandlers.ofString()).body();
  }
}
