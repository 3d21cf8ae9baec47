package dev.kavrin.server.platform;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.restore.ChangedMeanwhileException;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.net.URI;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.transaction.TransactionException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** Turns what went wrong into RFC 9457 problem details. */
@RestControllerAdvice
public class Problems extends ResponseEntityExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

  /** The page went away while it was answered; there is nobody to tell. */
  @ExceptionHandler(org.apache.catalina.connector.ClientAbortException.class)
  void gone() {}

  /** What a value's own type says against it, where it does; the reason lies behind the reading. */
  @Override
  protected ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof IllegalArgumentException told) {
        return handleExceptionInternal(
            e, handle(told), headers, HttpStatus.UNPROCESSABLE_CONTENT, request);
      }
    }
    return super.handleHttpMessageNotReadable(e, headers, status, request);
  }

  /** What the framework itself refuses gets a type and an end of the sentence, like all others. */
  @Override
  protected ResponseEntity<Object> createResponseEntity(
      @Nullable Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    if (body instanceof ProblemDetail problem && isUntyped(problem)) {
      problem.setType(URI.create("urn:kavrin:problem:" + code(status.value())));
      String words = String.valueOf(problem.getDetail()).replaceFirst("[.]$", "");
      problem.setDetail(words + ". Nothing was changed.");
    }
    return super.createResponseEntity(body, headers, status, request);
  }

  private static boolean isUntyped(ProblemDetail problem) {
    return problem.getType() == null || problem.getType().toString().equals("about:blank");
  }

  private static String code(int status) {
    return switch (status) {
      case 404 -> "absent";
      case 405 -> "no-such-call";
      case 406, 415 -> "other-form";
      case 422 -> "bad-input";
      default -> status < 500 ? "not-understood" : "unexpected";
    };
  }

  /** What a call that failed with it would answer. */
  public static ProblemDetail of(Exception failed) {
    if (failed instanceof ProblemException e) {
      return handle(e);
    }
    if (failed instanceof IllegalArgumentException e) {
      return handle(e);
    }
    if (failed instanceof DataAccessException || failed instanceof TransactionException) {
      return recordsAway(failed);
    }
    if (failed instanceof IOException e) {
      return handle(e);
    }
    LOG.error("Something went wrong that nobody thought of", failed);
    return detail(
        HttpStatus.INTERNAL_SERVER_ERROR, "unexpected", "Something went wrong: " + failed + ".");
  }

  @ExceptionHandler
  static ProblemDetail handle(ProblemException e) {
    return detail(e.status(), e.code(), e.getMessage());
  }

  @ExceptionHandler
  static ProblemDetail handle(IllegalArgumentException e) {
    return detail(
        HttpStatus.UNPROCESSABLE_CONTENT, "bad-input", e.getMessage() + ". Nothing was changed.");
  }

  @ExceptionHandler({DataAccessException.class, TransactionException.class})
  static ProblemDetail recordsAway(Exception e) {
    LOG.warn("Records could not be reached: {}", e.getMessage());
    return detail(
        HttpStatus.SERVICE_UNAVAILABLE,
        "records-away",
        "Kavrin's records (PostgreSQL) cannot be reached. Backups go on being made; looking and"
            + " restoring wait. Nothing was changed.");
  }

  @ExceptionHandler
  static ProblemDetail handle(IOException e) {
    HttpStatus status = HttpStatus.INTERNAL_SERVER_ERROR;
    String code = "disk";
    String words = e.getMessage();
    if (e instanceof ChangedMeanwhileException) {
      status = HttpStatus.CONFLICT;
      code = "changed-meanwhile";
    } else if (e instanceof FileAlreadyExistsException) {
      status = HttpStatus.CONFLICT;
      code = "name-taken";
      words = "A file of that name is already there: " + e.getMessage() + ". Nothing was touched.";
    } else if (e instanceof NoRoomException) {
      status = HttpStatus.INSUFFICIENT_STORAGE;
      code = "no-room";
    } else if (e instanceof FolderAwayException) {
      status = HttpStatus.SERVICE_UNAVAILABLE;
      code = "place-away";
    } else if (e instanceof NoSuchFileException) {
      status = HttpStatus.NOT_FOUND;
      code = "file-gone";
      words = "The file is not there any more: " + e.getMessage() + ". Nothing was touched.";
    } else if (e instanceof AccessDeniedException) {
      status = HttpStatus.FORBIDDEN;
      code = "no-permission";
      words = "Kavrin may not write there: " + e.getMessage() + ". Nothing was touched.";
    } else if (e instanceof SourceException) {
      status = HttpStatus.CONFLICT;
      code = "source";
    } else {
      LOG.error("Disk trouble: {}", e.getMessage(), e);
    }
    return detail(status, code, words);
  }

  private static ProblemDetail detail(HttpStatus status, String code, String words) {
    ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, words);
    problem.setType(URI.create("urn:kavrin:problem:" + code));
    problem.setTitle(status.getReasonPhrase());
    return problem;
  }
}
