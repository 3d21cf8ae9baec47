package dev.kavrin.server.platform;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.UUID;

/** This installation: a short id kept in its data folder. */
public record Node(String id) {
  public static Node of(Path data) throws IOException {
    Files.createDirectories(data);
    Path file = data.resolve("node");
    if (Files.notExists(file)) {
      Files.writeString(file, UUID.randomUUID().toString().substring(0, 8));
    }
    return new Node(Files.readString(file).strip());
  }
}
