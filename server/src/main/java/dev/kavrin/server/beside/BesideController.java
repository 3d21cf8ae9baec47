package dev.kavrin.server.beside;

import java.io.IOException;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** What a project's work needs beside the project; a project of its own backs each of it up. */
@RestController
class BesideController {
  private final FoldersBeside beside;

  BesideController(FoldersBeside beside) {
    this.beside = beside;
  }

  @GetMapping("/api/projects/{id}/beside")
  List<FolderBeside> beside(@PathVariable UUID id) throws IOException {
    return beside.of(id);
  }
}
