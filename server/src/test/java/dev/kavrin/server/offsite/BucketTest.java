package dev.kavrin.server.offsite;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.offsite.Arrival;
import dev.kavrin.core.offsite.Body;
import dev.kavrin.core.offsite.Store;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * What stands under a name is left alone, whatever a service makes of {@code If-None-Match: *} (RFC
 * 9110, 13.1.2).
 */
class BucketTest {
  /** How services treat the header. */
  enum Service {
    HEEDS,
    IGNORES,
    REFUSES
  }

  @TempDir Path data;
  private final Map<String, byte[]> objects = new ConcurrentHashMap<>();
  private final List<String> asked = new CopyOnWriteArrayList<>();
  private HttpServer server;
  private Service service;
  private String tag;
  private Store store;

  @BeforeEach
  void open() throws IOException {
    Path keys = Files.createDirectory(data.resolve("keys"));
    Files.setPosixFilePermissions(
        Files.writeString(keys.resolve("some.key"), "access-key=access\nsecret-key=secret\n"),
        PosixFilePermissions.fromString("rw-------"));
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext("/", this::answer);
    server.start();
    store =
        new Buckets(new KeyFiles(data))
            .open(
                new StoreAddress(
                    new UUID(1, 1),
                    "Annex",
                    "s3://annex",
                    "",
                    "http://127.0.0.1:" + server.getAddress().getPort(),
                    null,
                    "some.key",
                    null,
                    null,
                    null,
                    null,
                    null,
                    0,
                    false,
                    null));
  }

  @AfterEach
  void close() {
    store.close();
    server.stop(0);
  }

  private void answer(HttpExchange exchange) throws IOException {
    String name = exchange.getRequestURI().getPath().substring("/annex/".length());
    boolean conditional = exchange.getRequestHeaders().containsKey("If-None-Match");
    asked.add(exchange.getRequestMethod() + (conditional ? " if free" : ""));
    byte[] body = exchange.getRequestBody().readAllBytes();
    int status = 200;
    if (exchange.getRequestMethod().equals("HEAD")) {
      status = objects.containsKey(name) ? 200 : 404;
      int length = objects.getOrDefault(name, new byte[0]).length;
      exchange.getResponseHeaders().set("Content-Length", String.valueOf(length));
    } else if (conditional && service == Service.REFUSES) {
      status = 501;
    } else if (conditional && service == Service.HEEDS && objects.containsKey(name)) {
      status = 412;
    } else {
      objects.put(name, body);
    }
    if (tag != null) {
      exchange.getResponseHeaders().set("ETag", '"' + tag + '"');
    }
    exchange.sendResponseHeaders(status, -1);
    exchange.close();
  }

  private static Body words(String words) {
    return Body.of(words.getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @EnumSource
  void whatStandsUnderANameIsLeftAlone(Service service) throws IOException {
    this.service = service;
    objects.put("theirs", "theirs".getBytes(StandardCharsets.UTF_8));
    assertThat(store.put("theirs", words("ours")))
        .as("the first that is sent")
        .isEqualTo(Arrival.NAME_TAKEN);
    assertThat(store.put("ours", words("ours"))).isEqualTo(Arrival.UNPROVEN);
    assertThat(store.put("ours", words("others"))).isEqualTo(Arrival.NAME_TAKEN);
    assertThat(store.put("theirs", words("ours"))).isEqualTo(Arrival.NAME_TAKEN);
    assertThat(store.put("more", words("more"))).isEqualTo(Arrival.UNPROVEN);
    assertThat(objects.get("theirs")).asString(StandardCharsets.UTF_8).isEqualTo("theirs");
    assertThat(objects).hasSize(3);
    objects.forEach(
        (name, bytes) -> assertThat(bytes).asString(StandardCharsets.UTF_8).isNotEqualTo("others"));
  }

  /** The tag of the first row is RFC 1321, A.5: the MD5 of "abc"; the second row has another's. */
  @ParameterizedTest
  @CsvSource({
    "900150983cd24fb0d6963f7d28e17f72, PROVEN",
    "0cc175b9c0f1b6a831c399e269772661, UNPROVEN",
    "9b2cf535f27731c974343645a3985328-1, UNPROVEN"
  })
  void aTagThatIsTheMd5OfWhatWasSentProvesIt(String answered, Arrival arrival) throws IOException {
    service = Service.IGNORES;
    tag = answered;
    assertThat(store.put("first", words("abc"))).isEqualTo(arrival);
    assertThat(store.put("second", words("abc"))).isEqualTo(arrival);
  }

  @ParameterizedTest
  @EnumSource
  void whoHeedsTheConditionIsAskedOnceForEachObject(Service service) throws IOException {
    this.service = service;
    for (int n = 0; n < 3; n++) {
      assertThat(store.put("object " + n, words("bytes " + n))).isEqualTo(Arrival.UNPROVEN);
    }
    List<String> first =
        switch (service) {
          case HEEDS -> List.of("HEAD", "PUT if free", "PUT if free");
          case IGNORES -> List.of("HEAD", "PUT if free", "PUT if free");
          case REFUSES -> List.of("HEAD", "PUT if free", "PUT");
        };
    List<String> others =
        service == Service.HEEDS
            ? List.of("PUT if free", "PUT if free")
            : List.of("HEAD", "PUT", "HEAD", "PUT");
    assertThat(asked.subList(0, 3)).isEqualTo(first);
    assertThat(asked.subList(3, asked.size())).isEqualTo(others);
  }
}
