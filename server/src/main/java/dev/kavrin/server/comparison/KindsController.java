package dev.kavrin.server.comparison;

import dev.kavrin.core.content.Kind;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
class KindsController {
  /** What can be done with each kind of file. */
  @GetMapping("/api/kinds")
  List<Kind> kinds() {
    return Kind.all();
  }
}
