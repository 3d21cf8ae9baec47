package dev.kavrin.server.platform;

import org.springframework.http.HttpStatus;

/** Something the person must hear: what, where, why, and what was not touched. */
public final class ProblemException extends RuntimeException {
  private final HttpStatus status;
  private final String code;

  private ProblemException(HttpStatus status, String code, String words, Throwable cause) {
    super(words, cause);
    this.status = status;
    this.code = code;
  }

  public static ProblemException badInput(String code, String words) {
    return new ProblemException(HttpStatus.UNPROCESSABLE_CONTENT, code, words, null);
  }

  public static ProblemException notFound(String words) {
    return new ProblemException(HttpStatus.NOT_FOUND, "not-found", words, null);
  }

  public static ProblemException conflict(String code, String words) {
    return new ProblemException(HttpStatus.CONFLICT, code, words, null);
  }

  /** Somebody else changed it since the person looked. */
  public static ProblemException stale(String words) {
    return new ProblemException(HttpStatus.PRECONDITION_FAILED, "changed-meanwhile", words, null);
  }

  public static ProblemException forbidden(String code, String words) {
    return new ProblemException(HttpStatus.FORBIDDEN, code, words, null);
  }

  /** Neither name nor password is told to be the wrong one. */
  public static ProblemException unknownPerson() {
    return new ProblemException(
        HttpStatus.UNAUTHORIZED, "wrong-password", "Name and password do not go together.", null);
  }

  /** After several wrong tries. */
  public static ProblemException tooMany(long seconds) {
    return new ProblemException(
        HttpStatus.TOO_MANY_REQUESTS,
        "too-many-tries",
        "Too many wrong tries. Try again in %d seconds.".formatted(seconds),
        null);
  }

  public static ProblemException away(String words, Throwable cause) {
    return new ProblemException(HttpStatus.SERVICE_UNAVAILABLE, "away", words, cause);
  }

  /** What a job told that was begun for the same call. */
  public static ProblemException told(int status, String type, String words) {
    String code = type.substring(type.lastIndexOf(':') + 1);
    return new ProblemException(HttpStatus.valueOf(status), code, words, null);
  }

  public HttpStatus status() {
    return status;
  }

  public String code() {
    return code;
  }
}
