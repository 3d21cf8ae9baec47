package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SinkStream;
import dev.kavrin.core.disk.StageName;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.LongConsumer;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;

/**
 * Writes a bag: the payload under {@code data/}, its SHA-256 beside it, a description for people
 * and one for machines. Every file is read once and published like any other; into a folder, a run
 * that was killed goes on where it stopped.
 */
public final class BagWriter {
  private static final String PAYLOAD = Bag.DATA.replace("/", "");
  private static final String MANIFEST = "manifest-" + Bag.ALGORITHM + ".txt";
  private static final String TAG_MANIFEST = "tagmanifest-" + Bag.ALGORITHM + ".txt";

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
  public record Item(Path source, String path, Form form) {
    /** Byte for byte. */
    public Item(Path source, String path) {
      this(source, path, Form.AS_IT_IS);
    }
  }

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
   * @param onTheWay told the bytes of each source that is done
   * @throws IOException the folder holds something else; nothing was touched
   */
  public Packed write(Order order, Path folder, LongConsumer onTheWay) throws IOException {
    checkOwn(order, folder);
    return fill(order, new FolderShelf(disk, publisher, folder), onTheWay);
  }

  /** The folder is new, or holds nothing but what this writes. */
  private void checkOwn(Order order, Path folder) throws IOException {
    if (disk.facts(folder).isEmpty()) {
      return;
    }
    Set<String> own = new HashSet<>(order.texts().keySet());
    own.addAll(List.of(PAYLOAD, Bag.DECLARATION, Bag.INFO, MANIFEST, TAG_MANIFEST));
    for (Path path : disk.list(folder)) {
      if (!own.contains(path.getFileName().toString()) && !StageName.is(path)) {
        throw new IOException(
            folder
                + " holds other files, such as "
                + path.getFileName()
                + "; choose a new folder. Nothing was touched");
      }
    }
  }

  /** The same as one ZIP; a run that was killed leaves nothing and begins anew. */
  public Packed writeZip(Order order, Path zip, LongConsumer onTheWay) throws IOException {
    String top = zip.getFileName().toString().replaceFirst("(?i)\\.zip$", "");
    Packed[] packed = new Packed[1];
    publisher.publish(
        zip,
        sink -> {
          ZipArchiveOutputStream out =
              ZipShelf.open(new BufferedOutputStream(new SinkStream(sink), 1 << 16));
          packed[0] = fill(order, new ZipShelf(out, top), onTheWay);
          out.finish();
          out.flush();
        },
        PublishCheck.NONE);
    return packed[0];
  }

  private Packed fill(Order order, Shelf shelf, LongConsumer onTheWay) throws IOException {
    Map<String, String> payload = new TreeMap<>();
    long bytes = 0;
    for (Item item : order.items()) {
      if (item.path().startsWith("/") || List.of(item.path().split("/")).contains("..")) {
        throw new IOException(item.path() + " leads out of the bag. Nothing was packed");
      }
    }
    for (Item item : order.items()) {
      Shelf.Put put =
          shelf.put(
              Bag.DATA + item.path(),
              sink -> item.form().write(disk, item.source(), sink),
              disk.facts(item.source()).orElseThrow().modifiedNanos());
      payload.put(Bag.DATA + item.path(), put.digest());
      bytes += put.bytes();
      onTheWay.accept(disk.facts(item.source()).orElseThrow().size());
    }
    describe(order, shelf, payload, bytes);
    return new Packed(payload, bytes);
  }

  private static void describe(Order order, Shelf shelf, Map<String, String> payload, long bytes)
      throws IOException {
    Map<String, String> tags = new LinkedHashMap<>();
    tag(
        shelf,
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
    tag(shelf, tags, Bag.INFO, lines.toString());
    for (Map.Entry<String, String> text : order.texts().entrySet()) {
      tag(shelf, tags, text.getKey(), text.getValue());
    }
    tag(shelf, tags, MANIFEST, manifest(payload));
    tag(shelf, new TreeMap<>(), TAG_MANIFEST, manifest(tags));
  }

  private static void tag(Shelf shelf, Map<String, String> tags, String name, String text)
      throws IOException {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    tags.put(name, shelf.put(name, sink -> sink.write(bytes, 0, bytes.length), null).digest());
  }

  private static String manifest(Map<String, String> digests) {
    List<String> lines = new ArrayList<>();
    digests.forEach((path, digest) -> lines.add(digest + "  " + Bag.written(path) + "\n"));
    return String.join("", lines);
  }
}
