package dev.kavrin.server.people;

import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import io.swagger.v3.oas.annotations.Hidden;
import io.swagger.v3.oas.annotations.Parameter;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.net.URI;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Entering and leaving, and what a person's own sessions and password are. */
@RestController
class SessionController {
  private static final int LONGEST_BROWSER = 200;

  private final Doorkeeper doorkeeper;
  private final SignInService signIns;
  private final Access access;
  private final Settings settings;

  SessionController(
      Doorkeeper doorkeeper, SignInService signIns, Access access, Settings settings) {
    this.doorkeeper = doorkeeper;
    this.signIns = signIns;
    this.access = access;
    this.settings = settings;
  }

  /**
   * @param roots folders under which places may lie
   * @param everywhere what the person may with every project; null for nothing
   * @param rights what they may with single ones, by the project's id
   */
  record SessionView(
      String name,
      List<String> roots,
      String zone,
      @Nullable Role everywhere,
      Map<UUID, Role> rights) {}

  /**
   * @param here true for the one that asks
   */
  record OwnSession(
      UUID id, String from, String browser, Instant since, Instant lastUsed, boolean here) {}

  record SignIn(
      @NotBlank @Size(max = 100) String name, @NotNull @Size(max = 300) String password) {}

  record InvitationView(String name) {}

  record Accept(@NotBlank String token, @NotNull @Size(max = 300) String password) {}

  record PasswordChange(@Nullable String old, @NotNull @Size(max = 300) String password) {}

  @Hidden
  @GetMapping("/api/enter")
  ResponseEntity<Void> enter(
      @RequestParam String token, CsrfToken csrf, HttpServletRequest request) {
    csrf.getToken();
    Optional<String> session = doorkeeper.enter(token, seen(request));
    ResponseEntity.BodyBuilder answer =
        ResponseEntity.status(HttpStatus.FOUND)
            .location(URI.create(session.isPresent() ? "/" : "/?link=used"));
    session.ifPresent(s -> answer.header(HttpHeaders.SET_COOKIE, cookie(request, s)));
    return answer.build();
  }

  /** By name and password; several wrong ones make the next wait. */
  @PostMapping("/api/sign-in")
  @ApiResponse(responseCode = "204")
  ResponseEntity<Void> signIn(@Valid @RequestBody SignIn r, HttpServletRequest request) {
    return entered(request, signIns.signIn(r.name(), r.password(), seen(request)));
  }

  /** Whose invitation a link is. */
  @GetMapping("/api/invitation")
  InvitationView invitation(@RequestParam String token, @Parameter(hidden = true) CsrfToken csrf) {
    csrf.getToken();
    return signIns
        .invited(token)
        .map(InvitationView::new)
        .orElseThrow(
            () ->
                ProblemException.notFound(
                    "This invitation was used already, or is older than a week. Ask for a new"
                        + " one."));
  }

  /** Chooses a password; the person is signed in then, and the link works no more. */
  @PostMapping("/api/invitation")
  @ApiResponse(responseCode = "204")
  ResponseEntity<Void> accept(@Valid @RequestBody Accept r, HttpServletRequest request) {
    return entered(request, signIns.accept(r.token(), r.password(), seen(request)));
  }

  @GetMapping("/api/session")
  SessionView session(Principal person, @Parameter(hidden = true) CsrfToken csrf) {
    csrf.getToken();
    Rights rights = access.current();
    return new SessionView(
        person.getName(),
        rights.mayEverywhere(Role.LOOK)
            ? settings.roots().stream().map(Object::toString).toList()
            : List.of(),
        settings.zone().getId(),
        rights.everywhere(),
        rights.projects());
  }

  /** Where else the person is signed in. */
  @GetMapping("/api/session/all")
  List<OwnSession> sessions(Principal person) {
    UUID here = Security.session(person);
    return doorkeeper.sessions(person.getName()).stream()
        .map(
            s ->
                new OwnSession(
                    s.id(), s.from(), s.browser(), s.since(), s.lastUsed(), s.id().equals(here)))
        .toList();
  }

  /** Signs out here. */
  @DeleteMapping("/api/session")
  @ApiResponse(responseCode = "204")
  ResponseEntity<Void> signOut(Principal person, HttpServletRequest request) {
    doorkeeper.end(person.getName(), Security.session(person));
    return ResponseEntity.noContent()
        .header(HttpHeaders.SET_COOKIE, Security.noCookie(request).toString())
        .build();
  }

  /** Signs out elsewhere. */
  @DeleteMapping("/api/session/all/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable UUID id, Principal person) {
    doorkeeper.end(person.getName(), id);
  }

  /** Another password; the person's other sessions end. */
  @PutMapping("/api/session/password")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void password(@Valid @RequestBody PasswordChange r, Principal person) {
    signIns.changePassword(
        person.getName(),
        Optional.ofNullable(r.old()).orElse(""),
        r.password(),
        Security.session(person));
  }

  private static ResponseEntity<Void> entered(HttpServletRequest request, String session) {
    return ResponseEntity.noContent()
        .header(HttpHeaders.SET_COOKIE, cookie(request, session))
        .build();
  }

  private static String cookie(HttpServletRequest request, String session) {
    return Security.sessionCookie(request, session).toString();
  }

  private static Doorkeeper.Seen seen(HttpServletRequest request) {
    String browser = Optional.ofNullable(request.getHeader(HttpHeaders.USER_AGENT)).orElse("");
    return new Doorkeeper.Seen(
        request.getRemoteAddr(), browser.substring(0, Math.min(browser.length(), LONGEST_BROWSER)));
  }
}
