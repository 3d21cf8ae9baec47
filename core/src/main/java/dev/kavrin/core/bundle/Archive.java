package dev.kavrin.core.bundle;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SinkStream;
import jakarta.annotation.Nullable;
import java.io.BufferedOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.LongConsumer;
import java.util.function.UnaryOperator;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * A final archive: a bag in which every file is packed without losing a bit, with a list by which
 * each comes back under its own name.
 */
public final class Archive {
  /** The list in the bag. */
  public static final String LIST = "archive.json";

  private static final long LARGEST_LIST = 64_000_000;

  private final Disk disk;
  private final Publisher publisher;

  public Archive(Disk disk, Publisher publisher) {
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * One file in it.
   *
   * @param path in the bag, below its payload
   * @param original its path in the folder it comes back into
   * @param form name of a {@link Compaction}
   * @param content what it held
   * @param frame what stood around the samples of a picture, null for other forms
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Listed(
      String path,
      String original,
      String form,
      String content,
      long modifiedNanos,
      @Nullable Compaction.Frame frame) {}

  /** What the list holds. */
  private record Contents(List<Listed> files) {}

  /**
   * What came of it.
   *
   * @param before bytes of the files as they were
   * @param after bytes of the files in the bag
   */
  public record Made(int files, long before, long after) {}

  /**
   * A plain file.
   *
   * @param original relative path it comes back under
   */
  public record Source(Path file, String original) {}

  /**
   * @param texts beside the payload, such as a description
   */
  public record Order(
      List<Source> sources, Map<String, String> texts, Map<String, String> info, LocalDate date) {}

  /**
   * Writes the archive and reads every file of it back.
   *
   * @throws IOException a file came back as another; the archive is left where it is, unfinished
   */
  public Made write(Order order, Path bag, LongConsumer onTheWay) throws IOException {
    PortableNames names = new PortableNames();
    List<Listed> listed = new ArrayList<>();
    List<BagWriter.Item> items = new ArrayList<>();
    long before = 0;
    for (Source source : order.sources()) {
      Path file = source.file();
      FileFacts facts =
          disk.facts(file).orElseThrow(() -> new NoSuchFileException(file.toString()));
      Compaction form = Compaction.of(disk, file);
      String path = names.of(source.original() + form.ending());
      listed.add(
          new Listed(
              path,
              source.original(),
              form.name(),
              publisher.identify(file).toString(),
              facts.modifiedNanos(),
              form == Compaction.PNG ? Compaction.frame(disk, file) : null));
      items.add(new BagWriter.Item(file, path, form));
      before += facts.size();
    }
    Map<String, String> texts = new LinkedHashMap<>(order.texts());
    texts.put(LIST, JsonMapper.shared().writeValueAsString(new Contents(listed)) + "\n");
    BagWriter.Packed packed =
        new BagWriter(disk, publisher)
            .write(new BagWriter.Order(items, texts, order.info(), order.date()), bag, onTheWay);
    try (BagFiles files = BagFiles.at(disk, bag)) {
      for (Listed one : listed) {
        check(files, one);
      }
    }
    return new Made(listed.size(), before, packed.bytes());
  }

  private static void check(BagFiles files, Listed one) throws IOException {
    ContentHash hash = new ContentHash();
    try (InputStream in = files.open(Bag.DATA + one.path());
        OutputStream out = new Hashing(hash)) {
      back(one, in, out);
    }
    if (!hash.id().equals(ContentId.parse(one.content()))) {
      throw new IOException(one.original() + " came back as another file. The archive is no good");
    }
  }

  private static final class Hashing extends OutputStream {
    private final ContentHash hash;

    Hashing(ContentHash hash) {
      this.hash = hash;
    }

    @Override
    public void write(int b) {
      hash.add(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int count) {
      hash.add(bytes, from, count);
    }
  }

  /** No more than a file held: a list made to hurt must not fill a drive. */
  private static final class Bounded extends FilterOutputStream {
    private long left;

    Bounded(OutputStream out, long most) {
      super(out);
      this.left = most;
    }

    @Override
    public void write(int b) throws IOException {
      write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int count) throws IOException {
      left -= count;
      if (left < 0) {
        throw new IOException("more comes out of it than the list says");
      }
      out.write(bytes, from, count);
    }
  }

  private static void back(Listed one, InputStream in, OutputStream out) throws IOException {
    Compaction.Frame frame = one.frame() == null ? Compaction.Frame.NONE : one.frame();
    Compaction.of(one.form()).back(in, frame, new Bounded(out, length(one)));
  }

  /** What an archive lists; empty for a bag that is none. */
  public List<Listed> list(Path bag) throws IOException {
    try (BagFiles files = BagFiles.at(disk, bag)) {
      if (files.list(odd -> {}).getOrDefault(LIST, Long.MAX_VALUE) > LARGEST_LIST) {
        return List.of();
      }
      try (InputStream in = files.open(LIST)) {
        return JsonMapper.shared().readValue(in, Contents.class).files();
      } catch (JacksonException broken) {
        throw new IOException("The list of the archive cannot be read: " + broken.getMessage());
      }
    }
  }

  /** Bytes of a file as it was. */
  public static long length(Listed one) {
    return ContentId.parse(one.content()).length();
  }

  /**
   * Brings every file back under its own name; what stands there already is not touched.
   *
   * @param into a folder; where each goes is asked of {@code guard}
   * @param guard says whether a path may be written, by throwing if not
   * @throws IOException a file is not what the list says; it is not written then
   */
  public int bringBack(Path bag, Path into, UnaryOperator<Path> guard, LongConsumer onTheWay)
      throws IOException {
    int brought = 0;
    try (BagFiles files = BagFiles.at(disk, bag)) {
      for (Listed one : list(bag)) {
        Path target = into.resolve(one.original()).normalize();
        if (!target.startsWith(into)) {
          throw new IOException(
              one.original() + " leads out of the folder. Nothing of it was written");
        }
        Path allowed = guard.apply(target);
        disk.makeFolders(allowed.getParent());
        ContentId wanted = ContentId.parse(one.content());
        publisher.publish(
            allowed,
            sink -> {
              try (InputStream in = files.open(Bag.DATA + one.path());
                  OutputStream out = new BufferedOutputStream(new SinkStream(sink), 1 << 16)) {
                back(one, in, out);
              }
            },
            (stage, content) -> {
              if (!content.equals(wanted)) {
                throw new IOException(one.original() + " is not what was archived; left out");
              }
              disk.touch(stage, one.modifiedNanos());
            });
        onTheWay.accept(wanted.length());
        brought++;
      }
    }
    return brought;
  }
}
