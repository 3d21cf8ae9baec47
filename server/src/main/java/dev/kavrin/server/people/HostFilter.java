package dev.kavrin.server.people;

import dev.kavrin.server.platform.Outside;
import jakarta.annotation.Nullable;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Answers only to the names it was given, so that no foreign name can be pointed here; the doors
 * that need no password open on this machine only.
 */
final class HostFilter extends OncePerRequestFilter {
  private static final Set<String> HERE = Set.of("127.0.0.1", "localhost", "[::1]");
  private static final Set<String> OF_THIS_MACHINE = Set.of("/api/enter", "/api/door");
  private static final List<String> READING = List.of("GET", "HEAD");

  private final Set<String> names = new HashSet<>(HERE);

  HostFilter(@Nullable Outside outside) {
    if (outside != null) {
      names.add(outside.name().toLowerCase(Locale.ROOT));
    }
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    String host = Optional.ofNullable(request.getHeader(HttpHeaders.HOST)).orElse("");
    String origin = request.getHeader(HttpHeaders.ORIGIN);
    boolean foreign =
        origin != null
            && !READING.contains(request.getMethod())
            && !origin.equals(request.getScheme() + "://" + host);
    if (!names.contains(host.replaceFirst(":\\d+$", "").toLowerCase(Locale.ROOT))) {
      Security.refuse(
          response,
          HttpStatus.MISDIRECTED_REQUEST,
          "wrong-host",
          "Kavrin does not answer to this name.");
    } else if (isOfThisMachine(request.getRequestURI()) && !isHere(request)) {
      Security.refuse(
          response,
          HttpStatus.FORBIDDEN,
          "not-here",
          "This answers on the machine Kavrin runs on only. Sign in by name and password.");
    } else if (foreign) {
      Security.refuse(
          response,
          HttpStatus.FORBIDDEN,
          "foreign-page",
          "This request came from another page. Nothing was changed.");
    } else {
      chain.doFilter(request, response);
    }
  }

  /** How Kavrin fares is told to whoever runs the machine, and to nobody else. */
  private static boolean isOfThisMachine(String path) {
    return OF_THIS_MACHINE.contains(path) || path.startsWith("/actuator");
  }

  private static boolean isHere(HttpServletRequest request) {
    try {
      return InetAddress.getByName(request.getRemoteAddr()).isLoopbackAddress();
    } catch (UnknownHostException noAddress) {
      return false;
    }
  }
}
