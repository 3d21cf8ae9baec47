package dev.kavrin.core.offsite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.chunk.Sha256;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.StoreAddress;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Encrypted objects, held against Node's own cryptography and against whoever changes them. */
class SealedStoreTest {
  private static final String WORDS = "winding drum, brake lever, ticket window";
  private static final String NAME = "carriage-1/files/carriage-02/2031-05-04.glb";
  private static final int PIECE = 1 << 16;

  @TempDir Path folder;

  private static Seal.Key key() throws IOException {
    return Seal.of(WORDS, new byte[] {4, 7, 1, 1}, 1000).opened(WORDS);
  }

  private static byte[] bytes(int length) {
    byte[] bytes = new byte[length];
    new Random(length).nextBytes(bytes);
    return bytes;
  }

  private static byte[] sealed(byte[] plain) throws IOException {
    try (InputStream in = new SealedFrame(key(), NAME).seal(Body.of(plain)).from(0)) {
      return in.readAllBytes();
    }
  }

  private static byte[] opened(String name, byte[] sealed) throws IOException {
    try (InputStream in = new SealedFrame(key(), name).open(new ByteArrayInputStream(sealed))) {
      return in.readAllBytes();
    }
  }

  @Property(tries = 60)
  void whatIsSealedOpensAgainAndCanBeSentFromAnywhere(
      @ForAll @IntRange(max = 3) int pieces,
      @ForAll @IntRange(min = -2, max = 2) int more,
      @ForAll @IntRange(max = 200_100) int from)
      throws IOException {
    byte[] plain = bytes(Math.max(0, pieces * PIECE + more));
    byte[] whole = sealed(plain);
    Body body = new SealedFrame(key(), NAME).seal(Body.of(plain));

    assertThat(body.length()).isEqualTo(whole.length);
    assertThat(SealedFrame.held(whole.length)).isEqualTo(plain.length);
    assertThat(body.sha256()).isEqualTo(Sha256.of(whole));
    assertThat(opened(NAME, whole)).isEqualTo(plain);
    int at = Math.min(from, whole.length);
    try (InputStream rest = body.from(at)) {
      assertThat(rest.readAllBytes()).isEqualTo(Arrays.copyOfRange(whole, at, whole.length));
    }
  }

  @Property(tries = 60)
  void nothingThatWasChangedCutOrMovedIsGivenOut(
      @ForAll @IntRange(min = 1, max = 140_000) int length, @ForAll long seed) throws IOException {
    byte[] whole = sealed(bytes(length));
    Random random = new Random(seed);
    byte[] flipped = whole.clone();
    flipped[random.nextInt(whole.length)] ^= (byte) (1 << random.nextInt(8));
    byte[] cut = Arrays.copyOf(whole, random.nextInt(whole.length));

    assertThatThrownBy(() -> opened(NAME, flipped)).isInstanceOf(IOException.class);
    assertThatThrownBy(() -> opened(NAME, cut)).isInstanceOf(IOException.class);
    assertThatThrownBy(() -> opened(NAME + "2", whole)).hasMessageContaining("another's name");
  }

  @Test
  void aWholePieceLeftOutAtTheEndIsNoticed() throws IOException {
    byte[] whole = sealed(bytes(3 * PIECE));
    byte[] cut = Arrays.copyOf(whole, whole.length - PIECE - 16);

    assertThatThrownBy(() -> opened(NAME, cut)).hasMessageContaining("cut off");
  }

  /** PBKDF2-HMAC-SHA-256, "passwd", "salt", 1 round: RFC 7914, section 11. */
  @Test
  void theKeyIsThatOfTheStandard() throws Exception {
    byte[] published =
        HexFormat.of().parseHex("55ac046e56e3089fec1691c22544b605f94185216dde0465e68b9d57c20dacbc");
    javax.crypto.Mac mac = javax.crypto.Mac.getInstance("HmacSHA256");
    mac.init(new javax.crypto.spec.SecretKeySpec(published, "HmacSHA256"));
    byte[] check = mac.doFinal("check\0".getBytes(java.nio.charset.StandardCharsets.UTF_8));

    Seal seal = Seal.of("passwd", "salt".getBytes(), 1);

    assertThat(Base64.getDecoder().decode(seal.check())).isEqualTo(check);
  }

  /** A page of code that knows docs/formats.md and Node's cryptography, nothing of ours. */
  @Test
  void aStrangerReadsItWithAPageOfCode() throws Exception {
    Store store = new FolderStore(new RealDisk(), new Publisher(new RealDisk(), "test"), folder);
    StoreMark mark = StoreMark.ensure(store, Instant.EPOCH, WORDS);
    byte[] plain = bytes(2 * PIECE + 77);
    new SealedStore(store, mark.seal().opened(WORDS)).put(NAME, Body.of(plain));
    Path tool = Path.of("..", "web", "tools", "unseal.mjs").toAbsolutePath().normalize();
    Path words = Files.writeString(folder.resolve("words"), "passphrase=" + WORDS + "\n");
    Path out = folder.resolve("out");

    Process node =
        new ProcessBuilder("node", tool.toString(), folder.toString(), NAME, words.toString())
            .redirectOutput(out.toFile())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();

    assertThat(node.waitFor()).isZero();
    assertThat(out).hasBinaryContent(plain);
    assertThat(Files.readAllBytes(folder.resolve(NAME))).isNotEqualTo(plain);
  }

  @Test
  void aStoreTakesNothingTheOtherWayThanItWasBegun() throws IOException {
    Stores stores =
        new SealedStores(
            new OffsiteStores(new RealDisk(), new Publisher(new RealDisk(), "test"), null),
            name -> name.equals("right") ? WORDS : "something else");
    Path open = Files.createDirectories(folder.resolve("open"));
    Path closed = Files.createDirectories(folder.resolve("closed"));
    StoreMark.ensure(stores.open(at(open, null)), Instant.EPOCH, null);
    StoreMark.ensure(stores.open(at(closed, "right")), Instant.EPOCH, WORDS);

    assertThatThrownBy(() -> stores.open(at(open, "right"))).hasMessageContaining("without");
    assertThatThrownBy(() -> stores.open(at(closed, null))).hasMessageContaining("passphrase");
    assertThatThrownBy(() -> stores.open(at(closed, "wrong")))
        .hasMessageContaining("another passphrase");
    try (Store store = stores.open(at(closed, "right"))) {
      store.put("a/b", Body.of(bytes(10)));
      assertThat(store.find("a/b").orElseThrow().length()).isEqualTo(10);
      assertThat(store.list("a/")).extracting(StoredObject::length).containsExactly(10L);
      try (InputStream in = store.get("a/b")) {
        assertThat(in.readAllBytes()).isEqualTo(bytes(10));
      }
    }
  }

  private static StoreAddress at(Path folder, String seal) {
    return new StoreAddress(
        new java.util.UUID(0, 1),
        "Annex",
        folder.toUri().toString().replaceAll("/$", ""),
        "",
        null,
        null,
        null,
        null,
        seal,
        null,
        null,
        null,
        0,
        false,
        null);
  }
}
