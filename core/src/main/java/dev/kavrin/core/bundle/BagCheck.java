package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Disk;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
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

  /** Reads all of a bag in a folder or in a ZIP; nothing is written. */
  public BagReport of(Path bag) throws IOException {
    try (BagFiles files = BagFiles.at(disk, bag)) {
      return new Run(files).report();
    }
  }

  private static final class Run {
    private final BagFiles files;
    private final Map<String, Long> sizes = new TreeMap<>();
    private final Set<String> there = sizes.keySet();
    private final List<String> missing = new ArrayList<>();
    private final List<String> extra = new ArrayList<>();
    private final List<String> altered = new ArrayList<>();
    private final List<String> faults = new ArrayList<>();
    private final Map<String, Map<String, String>> manifests = new TreeMap<>();
    private final Map<String, Map<String, String>> tagManifests = new TreeMap<>();

    Run(BagFiles files) {
      this.files = files;
    }

    BagReport report() throws IOException {
      sizes.putAll(files.list(odd -> faults.add(odd + " is no plain file; it was not followed.")));
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

    private static boolean leadsOut(String path) {
      return path.startsWith("/")
          || path.startsWith("~")
          || path.matches("[A-Za-z]:.*")
          || path.contains("\\")
          || path.contains("\0")
          || List.of(path.split("/")).contains("..");
    }

    private List<String> lines(String name) throws IOException {
      try (InputStream in = files.open(name)) {
        byte[] text = in.readNBytes(LARGEST_TAG + 1);
        if (text.length > LARGEST_TAG) {
          throw new IOException(name + " is too large to be a list of files");
        }
        return new String(text, StandardCharsets.UTF_8).lines().filter(l -> !l.isBlank()).toList();
      }
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
      try (InputStream in = files.open(path)) {
        byte[] block = new byte[1 << 17];
        for (int n = in.read(block); n >= 0; n = in.read(block)) {
          for (MessageDigest digest : digests.values()) {
            digest.update(block, 0, n);
          }
        }
      } catch (IOException | RuntimeException broken) {
        altered.add(path);
        return;
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
        bytes += sizes.get(path);
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
