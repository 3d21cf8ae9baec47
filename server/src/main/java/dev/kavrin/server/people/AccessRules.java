package dev.kavrin.server.people;

import static dev.kavrin.server.people.Role.ADMINISTER;
import static dev.kavrin.server.people.Role.LOOK;
import static dev.kavrin.server.people.Role.PLAN;
import static dev.kavrin.server.people.Role.RESTORE;

import java.util.List;
import org.springframework.http.server.PathContainer;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/**
 * Which role each call needs, in one table; the first line that fits counts. What no line names
 * needs the right to administer everything, so that a new call is closed until somebody opens it.
 */
final class AccessRules {
  /** Over what the role must be held. */
  enum Over {
    /** The project that the address names, by its own id or by something of it. */
    THAT_PROJECT,
    /** Any project: the answer holds only what the person may see. */
    ANY_PROJECT,
    EVERYTHING,
    /** Whoever has signed in. */
    ONESELF
  }

  /**
   * @param method of HTTP, or {@code *}
   */
  record Rule(String method, PathPattern path, Over over, Role role) {
    boolean fits(String asked, PathContainer where) {
      return (method.equals("*") || method.equals(asked)) && path.matches(where);
    }
  }

  private static final Rule CLOSED = rule("*", "/**", Over.EVERYTHING, ADMINISTER);

  private static final List<Rule> RULES =
      List.of(
          rule("*", "/api/session/**", Over.ONESELF, LOOK),
          rule("GET", "/api/kinds", Over.ONESELF, LOOK),
          rule("GET", "/api/settings/schema", Over.ONESELF, LOOK),
          // Lists of everything, cut down to what the person may see.
          rule("GET", "/api/overview", Over.ANY_PROJECT, LOOK),
          rule("GET", "/api/projects", Over.ANY_PROJECT, LOOK),
          rule("GET", "/api/losses", Over.ANY_PROJECT, LOOK),
          rule("GET", "/api/messages", Over.ANY_PROJECT, LOOK),
          rule("GET", "/api/jobs", Over.ANY_PROJECT, LOOK),
          rule("GET", "/api/jobs/{id}", Over.ANY_PROJECT, LOOK),
          rule("DELETE", "/api/jobs/{id}", Over.ANY_PROJECT, LOOK),
          // Whoever administers a project says who may what there.
          rule("*", "/api/people/**", Over.ANY_PROJECT, ADMINISTER),
          // Named by the digest of what they hold, which only who sees a version knows.
          rule("GET", "/api/contents/{content}/**", Over.ANY_PROJECT, LOOK),
          rule("GET", "/api/events", Over.ANY_PROJECT, LOOK),
          rule("POST", "/api/projects/look", Over.EVERYTHING, PLAN),
          rule("POST", "/api/projects/adopt", Over.EVERYTHING, PLAN),
          // Runs a command line of the caller's own on this machine.
          rule("POST", "/api/documents/{id}/trials/command", Over.EVERYTHING, ADMINISTER),
          // Figures and previews: nothing is changed.
          rule("*", "/api/projects/{id}/plan/advice", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/projects/{id}/plan/figures", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/projects/{id}/group-restores/preview", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/projects/{id}/profile/difference", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/documents/{id}/comparison/**", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/documents/{id}/restores/preview", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/documents/{id}/layouts/preview", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/documents/{id}/part-restores/preview", Over.THAT_PROJECT, LOOK),
          rule("*", "/api/documents/{id}/relinks/preview", Over.THAT_PROJECT, LOOK),
          rule("POST", "/api/documents/{id}/look", Over.THAT_PROJECT, LOOK),
          rule("POST", "/api/documents/{id}/recheck", Over.THAT_PROJECT, LOOK),
          rule("POST", "/api/documents/{id}/versions/{state}/formats", Over.THAT_PROJECT, LOOK),
          rule("GET", "/api/documents/{id}/**", Over.THAT_PROJECT, LOOK),
          rule("GET", "/api/projects/{id}/**", Over.THAT_PROJECT, LOOK),
          // Of one document: its plan is planning, all else is working with its versions.
          rule("PUT", "/api/documents/{id}/plan", Over.THAT_PROJECT, PLAN),
          rule("*", "/api/documents/{id}/**", Over.THAT_PROJECT, RESTORE),
          rule("POST", "/api/restores/{id}/undo", Over.THAT_PROJECT, RESTORE),
          rule("POST", "/api/group-restores/{id}/undo", Over.THAT_PROJECT, RESTORE),
          rule("POST", "/api/projects/{id}/group-restores", Over.THAT_PROJECT, RESTORE),
          rule("*", "/api/projects/{id}/incidents/**", Over.THAT_PROJECT, RESTORE),
          rule("POST", "/api/projects/{id}/leftovers", Over.THAT_PROJECT, RESTORE),
          rule("POST", "/api/projects/{id}/runs/preview", Over.THAT_PROJECT, RESTORE),
          // A program's command line and its settings act on the machine itself.
          rule("POST", "/api/projects/{id}/program/allow", Over.EVERYTHING, ADMINISTER),
          rule("*", "/api/projects/{id}/**", Over.THAT_PROJECT, PLAN),
          // Looking over the whole machine.
          rule("GET", "/api/room", Over.EVERYTHING, LOOK),
          rule("GET", "/api/folders", Over.EVERYTHING, LOOK),
          rule("GET", "/api/search", Over.EVERYTHING, LOOK),
          rule("GET", "/api/parts", Over.EVERYTHING, LOOK),
          rule("GET", "/api/plans/defaults", Over.EVERYTHING, LOOK),
          rule("GET", "/api/bundles", Over.EVERYTHING, LOOK),
          rule("GET", "/api/archives", Over.EVERYTHING, LOOK),
          rule("GET", "/api/stores/from", Over.EVERYTHING, LOOK),
          rule("*", "/api/search/**", Over.EVERYTHING, RESTORE),
          rule("POST", "/api/moments", Over.EVERYTHING, RESTORE),
          rule("*", "/api/strays/**", Over.EVERYTHING, RESTORE),
          rule("*", "/api/bundles/**", Over.EVERYTHING, RESTORE),
          rule("GET", "/api/browse", Over.EVERYTHING, RESTORE),
          rule("POST", "/api/programs/**", Over.EVERYTHING, PLAN),
          rule("*", "/api/watchings/**", Over.EVERYTHING, PLAN),
          rule("*", "/api/folders/**", Over.EVERYTHING, PLAN),
          rule("POST", "/api/projects/**", Over.EVERYTHING, PLAN));

  private AccessRules() {}

  private static Rule rule(String method, String path, Over over, Role role) {
    return new Rule(method, PathPatternParser.defaultInstance.parse(path), over, role);
  }

  static Rule of(String method, String path) {
    PathContainer where = PathContainer.parsePath(path);
    return RULES.stream().filter(r -> r.fits(method, where)).findFirst().orElse(CLOSED);
  }
}
