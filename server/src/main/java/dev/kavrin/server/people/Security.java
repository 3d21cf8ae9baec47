package dev.kavrin.server.people;

import dev.kavrin.server.platform.Settings;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseCookie;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.ExceptionHandlingConfigurer;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.csrf.CsrfFilter;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.transaction.TransactionException;
import org.springframework.web.filter.OncePerRequestFilter;

/** Who may call: the right host, the right page, a session. */
@Configuration(proxyBeanMethods = false)
class Security {
  private static final String POLICY =
      "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
          + "connect-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; "
          + "form-action 'self'";

  private static final String METRICS = "metrics";
  private static final List<SimpleGrantedAuthority> WHOLE =
      List.of(new SimpleGrantedAuthority(METRICS));

  /** Calls of whoever has no session yet. */
  static final String[] OPEN = {"/api/enter", "/api/door", "/api/sign-in", "/api/invitation"};

  /** Who called, by which session. */
  private record Caller(String name, UUID session) implements Principal {
    @Override
    public String getName() {
      return name;
    }
  }

  /**
   * Without a session of the container's every request looks like a new login, whose token would
   * replace the one that another tab is just sending.
   */
  private static final SessionAuthenticationStrategy KEEP_THE_TOKEN =
      (authentication, request, response) -> {};

  @Bean
  SecurityFilterChain chain(HttpSecurity http, Doorkeeper doorkeeper, Settings settings)
      throws Exception {
    return http.sessionManagement(s -> s.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
        .csrf(
            c ->
                c.spa()
                    .csrfTokenRepository(tokens())
                    .sessionAuthenticationStrategy(KEEP_THE_TOKEN)
                    .ignoringRequestMatchers("/api/door"))
        .formLogin(f -> f.disable())
        .httpBasic(b -> b.disable())
        .logout(l -> l.disable())
        .headers(
            h ->
                h.contentSecurityPolicy(p -> p.policyDirectives(POLICY))
                    .referrerPolicy(r -> r.policy(ReferrerPolicy.NO_REFERRER)))
        .addFilterBefore(new HostFilter(settings.outside()), CsrfFilter.class)
        .addFilterBefore(new SessionFilter(doorkeeper), AnonymousAuthenticationFilter.class)
        .authorizeHttpRequests(
            a ->
                a.requestMatchers(OPEN)
                    .permitAll()
                    .requestMatchers("/api/**")
                    .authenticated()
                    .requestMatchers("/actuator/metrics/**")
                    .hasAuthority(METRICS)
                    .anyRequest()
                    .permitAll())
        .exceptionHandling(Security::refusals)
        .build();
  }

  private static void refusals(ExceptionHandlingConfigurer<HttpSecurity> e) {
    e.authenticationEntryPoint(
            (request, response, denied) ->
                refuse(
                    response,
                    HttpStatus.UNAUTHORIZED,
                    "no-session",
                    "You are not signed in. Nothing was changed."))
        .accessDeniedHandler(
            (request, response, denied) ->
                refuse(
                    response,
                    HttpStatus.FORBIDDEN,
                    "forbidden",
                    denied instanceof CsrfException
                        ? "This request did not come from Kavrin's own page. Nothing was changed."
                        : "You have no right to see this."));
  }

  /** Kept as long as a session, so that a page never meets two tokens. */
  private static CookieCsrfTokenRepository tokens() {
    CookieCsrfTokenRepository tokens = CookieCsrfTokenRepository.withHttpOnlyFalse();
    tokens.setCookieCustomizer(c -> c.sameSite("Strict").path("/").maxAge(Doorkeeper.SESSION_LIFE));
    return tokens;
  }

  static void refuse(HttpServletResponse response, HttpStatus status, String code, String words)
      throws IOException {
    response.setStatus(status.value());
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    response.setCharacterEncoding("UTF-8");
    response
        .getWriter()
        .write(
            "{\"type\":\"urn:kavrin:problem:"
                + code
                + "\",\"title\":\""
                + status.getReasonPhrase()
                + "\",\"status\":"
                + status.value()
                + ",\"detail\":\""
                + words
                + "\"}");
  }

  /** Browsers share cookies among the ports of a host, and two Kavrins may run on one. */
  private static String cookieName(HttpServletRequest request) {
    String name = "kavrin_session_" + request.getLocalPort();
    return request.isSecure() ? "__Host-" + name : name;
  }

  static ResponseCookie sessionCookie(HttpServletRequest request, String token) {
    return cookie(request, token, Doorkeeper.SESSION_LIFE);
  }

  /** Takes the session's cookie away. */
  static ResponseCookie noCookie(HttpServletRequest request) {
    return cookie(request, "", Duration.ZERO);
  }

  private static ResponseCookie cookie(HttpServletRequest request, String value, Duration life) {
    return ResponseCookie.from(cookieName(request), value)
        .httpOnly(true)
        .secure(request.isSecure())
        .sameSite("Strict")
        .path("/")
        .maxAge(life)
        .build();
  }

  /** By which session a call came. */
  static UUID session(Principal who) {
    Object caller = ((Authentication) who).getPrincipal();
    return ((Caller) caller).session();
  }

  /** Puts the session's person into the security context. */
  private static final class SessionFilter extends OncePerRequestFilter {
    private final Doorkeeper doorkeeper;

    SessionFilter(Doorkeeper doorkeeper) {
      this.doorkeeper = doorkeeper;
    }

    @Override
    protected boolean shouldNotFilterAsyncDispatch() {
      return false;
    }

    @Override
    protected void doFilterInternal(
        HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
      try {
        cookie(request)
            .flatMap(isAboutHealth(request) ? doorkeeper::remembered : doorkeeper::who)
            .ifPresent(SessionFilter::signedIn);
      } catch (DataAccessException | TransactionException away) {
        refuse(
            response,
            HttpStatus.SERVICE_UNAVAILABLE,
            "records-away",
            "Kavrin's records (PostgreSQL) cannot be reached. Backups go on being made; looking and"
                + " restoring wait. Nothing was changed.");
        return;
      }
      chain.doFilter(request, response);
    }

    private static void signedIn(Doorkeeper.Entered entered) {
      UsernamePasswordAuthenticationToken token =
          new UsernamePasswordAuthenticationToken(
              new Caller(entered.name(), entered.session()),
              null,
              entered.rights().mayEverywhere(Role.ADMINISTER) ? WHOLE : List.of());
      token.setDetails(entered.rights());
      SecurityContextHolder.getContext().setAuthentication(token);
    }

    /** Asked to find out what fails, so it waits for no database. */
    private static boolean isAboutHealth(HttpServletRequest request) {
      return request.getRequestURI().startsWith("/actuator/");
    }

    private static Optional<String> cookie(HttpServletRequest request) {
      boolean asks = request.getRequestURI().startsWith("/api/") || isAboutHealth(request);
      return asks && request.getCookies() != null
          ? Arrays.stream(request.getCookies())
              .filter(c -> c.getName().equals(cookieName(request)))
              .map(Cookie::getValue)
              .findFirst()
          : Optional.empty();
    }
  }
}
