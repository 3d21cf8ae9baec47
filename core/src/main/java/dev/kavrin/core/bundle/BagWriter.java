package dev.kavrin.core.bundle;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.LongConsumer;

/**
 * Writes a bag into a folder: the payload under {@code data/}, its SHA-256 beside it, a description
 * for people and one for machines. Every file is read once and published like any other; a run that
 * was killed goes on where it stopped.
 */
public final class BagWriter {
  private static final String ALGORITHM = "sha256";

  private final Disk disk;
  private final Publisher publisher;

  public BagWriter(Disk disk, Publisher publisher) {
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * A file to pack.
   *
   * @param path in the bag, below its payload folder; portable, unique
   */
  public record Item(Path source, String path) {}

  /**
   * What is packed.
   *
   * @param texts small files beside the payload by name, such as a description
   * @param info what is said about the bag, by the names of RFC 8493 section 2.2.2
   */
  public record Order(
      List<Item> items, Map<String, String> texts, Map<String, String> info, LocalDate date) {
    public Order {
      items = List.copyOf(items);
    }
  }

  /** What was written: digests of the payload by path in the bag. */
  public record Packed(Map<String, String> digests, long bytes) {}

  /**
   * @param folder is made; what an earlier run left in it is read again and kept
   * @param onTheWay told the bytes of each file that is done
   */
  public Packed write(Order order, Path folder, LongConsumer onTheWay) throws IOException {
    Map<String, String> payload = new TreeMap<>();
    long bytes = 0;
    for (Item item : order.items()) {
      Path target = folder.resolve(Bag.DATA + item.path()).normalize();
      if (!target.startsWith(folder.resolve(Bag.DATA))) {
        throw new IOException(item.path() + " leads out of the bag. Nothing was packed");
      }
      payload.put(Bag.DATA + item.path(), packed(item.source(), target));
      long size = disk.facts(target).orElseThrow().size();
      bytes += size;
      onTheWay.accept(size);
    }
    Map<String, String> tags = new LinkedHashMap<>();
    tag(
        folder,
        tags,
        Bag.DECLARATION,
        "BagIt-Version: " + Bag.VERSION + "\nTag-File-Character-Encoding: UTF-8\n");
    Map<String, String> info = new LinkedHashMap<>(order.info());
    info.put("Bagging-Date", order.date().toString());
    info.put("Payload-Oxum", bytes + "." + payload.size());
    StringBuilder lines = new StringBuilder();
    info.forEach(
        (name, value) ->
            lines.append(name).append(": ").append(value.replaceAll("\\s+", " ")).append('\n'));
    tag(folder, tags, Bag.INFO, lines.toString());
    for (Map.Entry<String, String> text : order.texts().entrySet()) {
      tag(folder, tags, text.getKey(), text.getValue());
    }
    tag(folder, tags, "manifest-" + ALGORITHM + ".txt", manifest(payload));
    tag(folder, new TreeMap<>(), "tagmanifest-" + ALGORITHM + ".txt", manifest(tags));
    return new Packed(payload, bytes);
  }

  /** The digest of a file that is copied, or was already before a stop. */
  private String packed(Path source, Path target) throws IOException {
    MessageDigest digest = Bag.digest(ALGORITHM);
    if (disk.facts(target).isPresent()) {
      Copying.copy(disk, source, new Digesting(digest));
      String wanted = Bag.hex(digest);
      Copying.copy(disk, target, new Digesting(digest));
      if (!Bag.hex(digest).equals(wanted)) {
        throw new IOException(target + " stands there already and is another file");
      }
      return wanted;
    }
    disk.makeFolders(target.getParent());
    publisher.publish(
        target,
        sink -> Copying.copy(disk, source, new Both(sink, digest)),
        (stage, content) -> disk.touch(stage, disk.facts(source).orElseThrow().modifiedNanos()));
    return Bag.hex(digest);
  }

  private void tag(Path folder, Map<String, String> tags, String name, String text)
      throws IOException {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    Path target = folder.resolve(name);
    if (disk.facts(target).isEmpty()) {
      publisher.publish(target, sink -> sink.write(bytes, 0, bytes.length), Publisher.OPEN);
    } else if (!publisher.identify(target).equals(ContentHash.of(text))) {
      throw new IOException(target + " stands there already and is another file");
    }
    MessageDigest digest = Bag.digest(ALGORITHM);
    digest.update(bytes);
    tags.put(name, Bag.hex(digest));
  }

  private static String manifest(Map<String, String> digests) {
    List<String> lines = new ArrayList<>();
    digests.forEach((path, digest) -> lines.add(digest + "  " + Bag.written(path) + "\n"));
    return String.join("", lines);
  }

  /** Takes in what passes. */
  private record Digesting(MessageDigest digest) implements Sink {
    @Override
    public void write(byte[] bytes, int from, int count) {
      digest.update(bytes, from, count);
    }

    @Override
    public void flush() {}

    @Override
    public void close() {}
  }

  /** Writes and takes in. */
  private record Both(Sink sink, MessageDigest digest) implements Sink {
    @Override
    public void write(byte[] bytes, int from, int count) throws IOException {
      digest.update(bytes, from, count);
      sink.write(bytes, from, count);
    }

    @Override
    public void flush() throws IOException {
      sink.flush();
    }

    @Override
    public void close() throws IOException {
      sink.close();
    }
  }
}
