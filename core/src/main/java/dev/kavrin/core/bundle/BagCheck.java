package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Reads a bag, from Kavrin or from any other writer, and says what is wrong with it. */
public final class BagCheck {
  private static final Pattern MANIFEST = Pattern.compile("(tag)?manifest-([a-z0-9]+)\\.txt");
  private static final Pattern LINE = Pattern.compile("([0-9a-fA-F]+)[ \\t]+\\*?(.+)");
  private static final Pattern TOLD = Pattern.compile("([^:]+):\\s*(.*)");
  private static final int LARGEST_TAG = 64_000_000;

  private final Disk disk;

  public BagCheck(Disk disk) {
    this.disk = disk;
  }

  /** Reads all of it; nothing is written. */
  public BagReport of(Path bag) throws IOException {
    return new Run(bag).report();
  }

  private final class Run {
    private final Path bag;
    private final TreeSet<String> there = new TreeSet<>();
    private final List<String> missing = new ArrayList<>();
    private final List<String> extra = new ArrayList<>();
    private final List<String> altered = new ArrayList<>();
    private final List<String> faults = new ArrayList<>();
    private final Map<String, Map<String, String>> manifests = new TreeMap<>();
    private final Map<String, Map<String, String>> tagManifests = new TreeMap<>();

    Run(Path bag) {
      this.bag = bag;
    }

    BagReport report() throws IOException {
      gather(bag, "");
      String version = declared();
      for (String name : List.copyOf(there)) {
        Matcher manifest = MANIFEST.matcher(name);
        if (manifest.matches()) {
          (manifest.group(1) == null ? manifests : tagManifests)
              .put(manifest.group(2), entries(name));
        }
      }
      if (manifests.isEmpty()) {
        faults.add("It has no manifest of its payload.");
      }
      TreeSet<String> payload = new TreeSet<>();
      there.stream().filter(p -> p.startsWith(Bag.DATA)).forEach(payload::add);
      manifests.forEach(
          (algorithm, named) -> {
            payload.stream().filter(p -> !named.containsKey(p)).forEach(this::extra);
          });
      check(manifests);
      check(tagManifests);
      Map<String, String> info = there.contains(Bag.INFO) ? told(Bag.INFO) : Map.of();
      oxum(info, payload);
      return new BagReport(
          version,
          List.copyOf(payload),
          info,
          missing.stream().distinct().toList(),
          extra,
          altered.stream().distinct().toList(),
          fetched(),
          faults);
    }

    private void extra(String path) {
      if (!extra.contains(path)) {
        extra.add(path);
      }
    }

    private void gather(Path folder, String above) throws IOException {
      for (Path path : disk.list(folder)) {
        String name = above + path.getFileName();
        FileFacts facts = disk.facts(path).orElse(null);
        if (facts != null && facts.isFolder()) {
          gather(path, name + "/");
        } else if (facts != null && facts.isFile()) {
          there.add(name);
        } else {
          faults.add(name + " is no plain file; it was not followed.");
        }
      }
    }

    private String declared() throws IOException {
      if (!there.contains(Bag.DECLARATION)) {
        faults.add("It is no bag: bagit.txt is missing.");
        return "";
      }
      Map<String, String> told = told(Bag.DECLARATION);
      if (!told.getOrDefault("Tag-File-Character-Encoding", "").equalsIgnoreCase("UTF-8")) {
        faults.add("Its bagit.txt does not say UTF-8.");
      }
      if (!told.containsKey("BagIt-Version")) {
        faults.add("Its bagit.txt does not say which version it follows.");
      }
      return told.getOrDefault("BagIt-Version", "");
    }

    /** Labels with their values; a line that begins with a space goes on the one before. */
    private Map<String, String> told(String name) throws IOException {
      Map<String, String> told = new LinkedHashMap<>();
      String last = null;
      for (String line : lines(name)) {
        Matcher matcher = TOLD.matcher(line);
        if (last != null && (line.startsWith(" ") || line.startsWith("\t"))) {
          told.merge(last, line.strip(), (a, b) -> a + " " + b);
        } else if (matcher.matches()) {
          last = matcher.group(1).strip();
          told.put(last, matcher.group(2).strip());
        }
      }
      return told;
    }

    private Map<String, String> entries(String name) throws IOException {
      Map<String, String> entries = new LinkedHashMap<>();
      for (String line : lines(name)) {
        Matcher matcher = LINE.matcher(line);
        if (!matcher.matches()) {
          faults.add(name + " has a line that says nothing: " + line);
          continue;
        }
        String path = named(matcher.group(2));
        if (leadsOut(path)) {
          faults.add(name + " names a file outside the bag: " + path);
        } else if (entries.put(path, matcher.group(1).toLowerCase(java.util.Locale.ROOT)) != null) {
          faults.add(name + " names " + path + " twice.");
        }
      }
      return entries;
    }

    /** Some writers leave the sign that marks numbers as it is. */
    private String named(String written) {
      String read = Bag.read(written);
      return !there.contains(read) && there.contains(written) ? written : read;
    }

    private boolean leadsOut(String path) {
      return path.startsWith("/")
          || path.startsWith("~")
          || path.matches("[A-Za-z]:.*")
          || path.contains("\\")
          || path.contains("\0")
          || List.of(path.split("/")).contains("..")
          || !bag.resolve(path).normalize().startsWith(bag);
    }

    private List<String> lines(String name) throws IOException {
      ByteArrayOutputStream text = new ByteArrayOutputStream();
      try (SeekableByteChannel in = disk.read(bag.resolve(name))) {
        if (in.size() > LARGEST_TAG) {
          throw new IOException(bag.resolve(name) + " is too large to be a list of files");
        }
        ByteBuffer block = ByteBuffer.allocate(1 << 16);
        while (in.read(block.clear()) >= 0) {
          text.write(block.array(), 0, block.position());
        }
      }
      return text.toString(StandardCharsets.UTF_8).lines().filter(l -> !l.isBlank()).toList();
    }

    /** Each file is read once for all manifests that name it. */
    private void check(Map<String, Map<String, String>> all) throws IOException {
      TreeMap<String, Map<String, String>> byPath = new TreeMap<>();
      all.forEach(
          (algorithm, named) ->
              named.forEach(
                  (path, digest) ->
                      byPath.computeIfAbsent(path, p -> new TreeMap<>()).put(algorithm, digest)));
      for (Map.Entry<String, Map<String, String>> one : byPath.entrySet()) {
        if (there.contains(one.getKey())) {
          compare(one.getKey(), one.getValue());
        } else {
          missing.add(one.getKey());
        }
      }
    }

    private void compare(String path, Map<String, String> wanted) throws IOException {
      Map<String, MessageDigest> digests = new TreeMap<>();
      for (String algorithm : wanted.keySet()) {
        if (Bag.DIGESTS.containsKey(algorithm)) {
          digests.put(algorithm, Bag.digest(algorithm));
        } else if (!faults.contains(unknown(algorithm))) {
          faults.add(unknown(algorithm));
        }
      }
      try (SeekableByteChannel in = disk.read(bag.resolve(path))) {
        ByteBuffer block = ByteBuffer.allocate(1 << 17);
        while (in.read(block.clear()) >= 0) {
          for (MessageDigest digest : digests.values()) {
            digest.update(block.array(), 0, block.position());
          }
        }
      }
      digests.forEach(
          (algorithm, digest) -> {
            if (!Bag.hex(digest).equals(wanted.get(algorithm))) {
              altered.add(path);
            }
          });
    }

    private static String unknown(String algorithm) {
      return "Its digests of the kind " + algorithm + " are not known here.";
    }

    /** Section 2.2.2: bytes and files of the payload, a quick look before all is read. */
    private void oxum(Map<String, String> info, TreeSet<String> payload) throws IOException {
      String told = info.get("Payload-Oxum");
      if (told == null) {
        return;
      }
      long bytes = 0;
      for (String path : payload) {
        bytes += disk.facts(bag.resolve(path)).map(FileFacts::size).orElse(0L);
      }
      if (!told.equals(bytes + "." + payload.size())) {
        faults.add(
            "It says it holds "
                + told
                + " (bytes.files), and holds "
                + bytes
                + "."
                + payload.size()
                + ".");
      }
    }

    private List<String> fetched() throws IOException {
      return there.contains(Bag.FETCH)
          ? lines(Bag.FETCH).stream().map(l -> l.split("\\s+", 3)[2]).map(Bag::read).toList()
          : List.of();
    }
  }
}
