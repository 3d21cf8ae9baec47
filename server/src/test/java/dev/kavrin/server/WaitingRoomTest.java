package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import dev.kavrin.server.platform.Outside;
import dev.kavrin.server.platform.OwnCertificate;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The page that is shown until the records answer, where Kavrin itself will be. */
class WaitingRoomTest {
  @TempDir Path folder;

  private static String run(String... command) throws IOException, InterruptedException {
    Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
    process.getOutputStream().close();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    process.waitFor();
    return said;
  }

  private Outside outside(String name) throws IOException, InterruptedException {
    Path certificate = folder.resolve(name + ".pem");
    Path key = folder.resolve(name + "-key.pem");
    List<String> command =
        new ArrayList<>(List.of("openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes"));
    command.addAll(List.of("-keyout", key.toString(), "-out", certificate.toString()));
    command.addAll(List.of("-days", "2", "-subj", "/CN=localhost"));
    command.addAll(List.of("-addext", "subjectAltName=DNS:localhost"));
    run(command.toArray(String[]::new));
    return new Outside("localhost", "127.0.0.1", certificate, key);
  }

  @Test
  void onLoopbackItSaysWhatItWaitsFor() throws Exception {
    HttpServer server = WaitingRoom.open(0, null);
    try {
      URI page = URI.create("http://127.0.0.1:" + server.getAddress().getPort() + "/versions");
      HttpResponse<String> answer =
          HttpClient.newHttpClient()
              .send(HttpRequest.newBuilder(page).build(), BodyHandlers.ofString());
      assertThat(answer.statusCode()).isEqualTo(503);
      assertThat(answer.headers().firstValue("Retry-After")).contains("3");
      assertThat(answer.body()).contains("waiting for its records", "Nothing was lost");
    } finally {
      server.stop(0);
    }
  }

  /** Asked by clients that are not ours. */
  @Test
  void offLoopbackItAnswersByTlsAlone() throws Exception {
    Outside outside = outside("own");
    HttpServer server = WaitingRoom.open(0, outside);
    try {
      String at = "localhost:" + server.getAddress().getPort();
      String said =
          run("curl", "-s", "-i", "--cacert", outside.certificate().toString(), "https://" + at);
      assertThat(said).startsWith("HTTP/1.1 503").contains("waiting for its records");
      assertThat(run("openssl", "s_client", "-connect", at, "-tls1_2", "-brief"))
          .contains("Protocol version: TLSv1.2");
      assertThat(run("openssl", "s_client", "-connect", at, "-tls1_1", "-brief"))
          .doesNotContain("CONNECTION ESTABLISHED");
      URI plain = URI.create("http://" + at + "/");
      assertThatThrownBy(
              () ->
                  HttpClient.newHttpClient()
                      .send(HttpRequest.newBuilder(plain).build(), BodyHandlers.ofString()))
          .isInstanceOf(IOException.class);
    } finally {
      server.stop(0);
    }
  }

  /** The service asks itself by its number, which no certificate names. */
  @Test
  void itsOwnCertificateIsTrustedAndNoOther() throws Exception {
    Outside outside = outside("own");
    HttpServer server = WaitingRoom.open(0, outside);
    try {
      URI page = URI.create("https://127.0.0.1:" + server.getAddress().getPort() + "/");
      HttpRequest ask = HttpRequest.newBuilder(page).build();
      assertThat(
              HttpClient.newBuilder()
                  .sslContext(OwnCertificate.trusted(outside))
                  .build()
                  .send(ask, BodyHandlers.discarding())
                  .statusCode())
          .isEqualTo(503);
      HttpClient mistaken =
          HttpClient.newBuilder().sslContext(OwnCertificate.trusted(outside("another"))).build();
      assertThatThrownBy(() -> mistaken.send(ask, BodyHandlers.discarding()))
          .isInstanceOf(IOException.class)
          .hasMessageContaining("Another certificate");
    } finally {
      server.stop(0);
    }
  }
}
