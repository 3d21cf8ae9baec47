package dev.kavrin.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Every view has an address of its own; all are served by the one page. */
@Controller
@Hidden
class PagesController {
  private static final String OVERVIEW_AHEAD =
      "</api/overview>; rel=preload; as=fetch; crossorigin=anonymous,"
          + " </api/session>; rel=preload; as=fetch; crossorigin=anonymous";

  /** The browser asks for the overview's figures while it still loads the scripts. */
  @GetMapping({"/", "/overview"})
  String first(HttpServletResponse answer) {
    answer.setHeader(HttpHeaders.LINK, OVERVIEW_AHEAD);
    return page();
  }

  @GetMapping({
    "/start",
    "/programs",
    "/folders",
    "/notifications",
    "/under-way",
    "/plan/**",
    "/versions/**",
    "/recover/**",
    "/compare/**",
    "/parts/**",
    "/recover-several/**",
    "/elsewhere/**",
    "/bring-back",
    "/recovery-test/**",
    "/crash-report/**",
    "/links/**",
    "/pack/**",
    "/people",
    "/invitation"
  })
  String page() {
    return "forward:/index.html";
  }
}
