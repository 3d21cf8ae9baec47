package dev.kavrin.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Every view has an address of its own; all are served by the one page. */
@Controller
@Hidden
class PagesController {
  @GetMapping({
    "/overview",
    "/start",
    "/programs",
    "/places",
    "/plan/**",
    "/trail/**",
    "/desk/**",
    "/compare/**"
  })
  String page() {
    return "forward:/index.html";
  }
}
