package dev.kavrin.server.people;

import dev.kavrin.server.platform.ProblemException;
import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Holds each call of the API against the table of roles, before anything of it is done. */
@Configuration(proxyBeanMethods = false)
class AccessInterceptor implements WebMvcConfigurer, HandlerInterceptor {
  private final Access access;
  private final Map<String, ProjectOf> projects;

  AccessInterceptor(Access access, List<ProjectOf> projects) {
    this.access = access;
    this.projects =
        projects.stream().collect(Collectors.toMap(ProjectOf::noun, Function.identity()));
  }

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(this).addPathPatterns("/api/**").excludePathPatterns(Security.OPEN);
  }

  @Override
  public boolean preHandle(HttpServletRequest call, HttpServletResponse answer, Object handler) {
    if (call.getDispatcherType() == DispatcherType.REQUEST) {
      check(call.getMethod().equals("HEAD") ? "GET" : call.getMethod(), call.getRequestURI());
    }
    return true;
  }

  private void check(String method, String path) {
    AccessRules.Rule rule = AccessRules.of(method, path);
    Rights rights = access.current();
    boolean may =
        switch (rule.over()) {
          case ONESELF -> true;
          case ANY_PROJECT -> rights.maySomewhere(rule.role());
          case EVERYTHING -> rights.mayEverywhere(rule.role());
          case THAT_PROJECT -> mayThere(rights, rule.role(), path);
        };
    if (!may) {
      throw ProblemException.forbidden(
          "no-right",
          "You have no right to do this: it needs “%s”%s. Nothing was changed. Whoever administers"
                  .formatted(
                      rule.role().name().toLowerCase(java.util.Locale.ROOT),
                      rule.over() == AccessRules.Over.EVERYTHING
                          ? " for everything"
                          : " for that project")
              + " Kavrin can give it to you.");
    }
  }

  /** What does not exist is not told from what the person may not see. */
  private boolean mayThere(Rights rights, Role role, String path) {
    if (rights.mayEverywhere(role)) {
      return true;
    }
    UUID project = project(path).orElseThrow(AccessInterceptor::notThere);
    if (!rights.may(project, Role.LOOK)) {
      throw notThere();
    }
    return rights.may(project, role);
  }

  private static ProblemException notThere() {
    return ProblemException.notFound("There is no such thing, or you may not see it.");
  }

  /** {@code /api/NOUN/ID/…}. */
  private Optional<UUID> project(String path) {
    String[] words = path.split("/");
    if (words.length < 4) {
      return Optional.empty();
    }
    try {
      UUID id = UUID.fromString(words[3]);
      return words[2].equals("projects")
          ? Optional.of(id)
          : Optional.ofNullable(projects.get(words[2])).flatMap(p -> p.project(id));
    } catch (IllegalArgumentException noId) {
      return Optional.empty();
    }
  }
}
