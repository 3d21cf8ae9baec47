package dev.kavrin.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.security.Principal;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Entering, and who entered. */
@RestController
class SessionController {
  private final Doorkeeper doorkeeper;
  private final Settings settings;

  SessionController(Doorkeeper doorkeeper, Settings settings) {
    this.doorkeeper = doorkeeper;
    this.settings = settings;
  }

  /**
   * @param roots folders under which places may lie
   */
  record SessionView(String name, List<String> roots, String zone) {}

  @Hidden
  @GetMapping("/api/enter")
  ResponseEntity<Void> enter(
      @RequestParam String token, CsrfToken csrf, HttpServletRequest request) {
    csrf.getToken();
    return doorkeeper
        .enter(token)
        .map(
            session ->
                ResponseEntity.status(HttpStatus.FOUND)
                    .location(URI.create("/"))
                    .header(
                        HttpHeaders.SET_COOKIE, Security.sessionCookie(request, session).toString())
                    .<Void>build())
        .orElseGet(
            () ->
                ResponseEntity.status(HttpStatus.FOUND)
                    .location(URI.create("/?link=used"))
                    .build());
  }

  @GetMapping("/api/session")
  SessionView session(Principal person, @Parameter(hidden = true) CsrfToken csrf) {
    csrf.getToken();
    return new SessionView(
        person.getName(),
        settings.roots().stream().map(Object::toString).toList(),
        settings.zone().getId());
  }
}
