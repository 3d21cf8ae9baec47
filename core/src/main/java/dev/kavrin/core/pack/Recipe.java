package dev.kavrin.core.pack;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How a file is put together: ranges of packs, each of whole Zstandard frames, unpacked one behind
 * the other. A small text that a person and a shell can read; docs/formats.md tells it.
 *
 * @param length bytes of the whole file
 * @param sha256 of the whole file, lower-case hexadecimal
 * @param modifiedNanos its time of last write, nanoseconds since 1970
 */
public record Recipe(long length, String sha256, long modifiedNanos, List<Range> ranges) {
  /** What the name of a file gets once only its recipe is left. */
  public static final String ENDING = ".recipe";

  /** Longer ones are no recipes of ours. */
  static final long LONGEST = 256 << 20;

  private static final String FIRST = "kavrin recipe 1";
  private static final String HELP = "# sh unpack.sh THIS-FILE > THE-FILE (unpack.sh lies on top)";
  private static final Pattern SUM = Pattern.compile("[0-9a-f]{64}");
  private static final Pattern PACK =
      Pattern.compile("\\.kavrin/packs/[0-9a-f-]{36}/[0-9a-f-]{36}\\.pack");
  private static final Pattern RANGE =
      Pattern.compile("range (\\d{1,18}) (\\d{1,18}) (\\d{1,18}) (\\S+)");

  /**
   * Frames that follow each other in a pack.
   *
   * @param pack path from the top of the backup folder, with slashes
   * @param offset of the first frame
   * @param packed bytes of the frames
   * @param length bytes they unpack to
   */
  public record Range(String pack, long offset, long packed, long length) {
    /** True if the other range goes on where this one ends. */
    private boolean leadsTo(Range next) {
      return pack.equals(next.pack) && offset + packed == next.offset;
    }

    private Range and(Range next) {
      return new Range(pack, offset, packed + next.packed, length + next.length);
    }
  }

  public Recipe {
    ranges = List.copyOf(ranges);
  }

  /** Ranges as they come, joined where they touch. */
  public static final class Ranges {
    private final List<Range> all = new ArrayList<>();

    public void add(String pack, PackIndex.Frame frame) {
      add(new Range(pack, frame.offset(), frame.packed(), frame.chunk().length()));
    }

    public void add(Range next) {
      int last = all.size() - 1;
      if (last >= 0 && all.get(last).leadsTo(next)) {
        all.set(last, all.get(last).and(next));
      } else {
        all.add(next);
      }
    }

    public List<Range> all() {
      return List.copyOf(all);
    }
  }

  /** As it stands in its file. */
  public String written() {
    StringBuilder text = new StringBuilder();
    text.append(FIRST).append('\n').append(HELP).append('\n');
    text.append("length ").append(length).append('\n');
    text.append("sha256 ").append(sha256).append('\n');
    text.append("modified ").append(modifiedNanos).append('\n');
    for (Range r : ranges) {
      text.append(
          String.format(Locale.ROOT, "range %d %d %d %s\n", r.offset, r.packed, r.length, r.pack));
    }
    return text.append("end\n").toString();
  }

  /**
   * Reads what {@link #written} wrote. What leads out of the folder of packs is no recipe.
   *
   * @param name of the recipe, for words
   * @throws DamagedPackException it is no recipe, or not a whole one
   */
  public static Recipe parse(String text, String name) throws DamagedPackException {
    List<String> lines = text.lines().filter(l -> !l.startsWith("#")).toList();
    if (lines.size() < 5
        || !text.endsWith("\n")
        || !lines.get(0).equals(FIRST)
        || !lines.get(lines.size() - 1).equals("end")) {
      throw new DamagedPackException(name + " is no whole recipe");
    }
    long length = number(lines.get(1), "length ", name);
    String sum = lines.get(2).replaceFirst("^sha256 ", "");
    long modified = number(lines.get(3), "modified ", name);
    List<Range> ranges = new ArrayList<>();
    for (String line : lines.subList(4, lines.size() - 1)) {
      ranges.add(range(line, name));
    }
    long all = ranges.stream().mapToLong(Range::length).sum();
    if (!SUM.matcher(sum).matches() || all != length) {
      throw new DamagedPackException(name + " does not add up to the file it is of");
    }
    return new Recipe(length, sum, modified, ranges);
  }

  private static long number(String line, String key, String name) throws DamagedPackException {
    try {
      if (line.startsWith(key)) {
        return Long.parseLong(line.substring(key.length()));
      }
    } catch (NumberFormatException none) {
      // Told below.
    }
    throw new DamagedPackException(name + " says no " + key.trim());
  }

  private static Range range(String line, String name) throws DamagedPackException {
    Matcher m = RANGE.matcher(line);
    if (!m.matches() || !PACK.matcher(m.group(4)).matches()) {
      throw new DamagedPackException(name + " has a line that is no range: " + line);
    }
    return new Range(
        m.group(4),
        Long.parseLong(m.group(1)),
        Long.parseLong(m.group(2)),
        Long.parseLong(m.group(3)));
  }
}
