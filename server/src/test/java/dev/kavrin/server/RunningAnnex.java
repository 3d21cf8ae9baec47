package dev.kavrin.server;

import dev.kavrin.annex.AnnexProcess;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/** The simulated store elsewhere, and somebody else's tool to look into it. */
final class RunningAnnex implements BeforeAllCallback, AfterAllCallback {
  private Path root;
  private AnnexProcess annex;

  @Override
  public void beforeAll(ExtensionContext context) throws IOException {
    root = Files.createTempDirectory("kavrin-annex");
    annex = new AnnexProcess(root);
  }

  URI address() {
    return annex.address();
  }

  /** Lays the key where a Kavrin looks for keys. */
  void giveKey(Path data) throws IOException {
    annex.giveKey(data);
  }

  /** Has Debian's s3cmd do something; returns what it printed. */
  String s3cmd(String... arguments) throws IOException, InterruptedException {
    Path settings = root.resolve("s3cmd");
    String host = address().getHost() + ":" + address().getPort();
    Files.writeString(
        settings,
        """
        [default]
        access_key = annex
        secret_key = orlop-gudgeon
        host_base = %s
        host_bucket = %s
        use_https = False
        """
            .formatted(host, host));
    List<String> command =
        Stream.concat(Stream.of("s3cmd", "-c", settings.toString()), Stream.of(arguments)).toList();
    Process s3cmd = new ProcessBuilder(command).redirectErrorStream(true).start();
    String said = new String(s3cmd.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (s3cmd.waitFor() != 0) {
      throw new IOException(said);
    }
    return said;
  }

  @Override
  public void afterAll(ExtensionContext context) throws IOException {
    annex.close();
    try (Stream<Path> all = Files.walk(root)) {
      all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
    }
  }
}
