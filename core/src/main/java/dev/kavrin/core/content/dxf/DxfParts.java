package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.dxf.DxfRecords.Entry;
import dev.kavrin.core.content.dxf.DxfRecords.Group;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Layers and blocks of drawings, with the blocks, line types and text styles they use. Source of
 * the codes: the published DXF reference (from memory).
 */
public final class DxfParts implements PartWriter {
  private static final String BLOCKS = "blocks/";

  /** What a drawn thing names in a table, by the code it names it with. */
  private static final Map<Integer, String> NAMED = Map.of(6, "LTYPE", 7, "STYLE", 8, "LAYER");

  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    Known present = Known.of(base);
    Adding adding = new Adding(present);
    for (Wanted some : wanted) {
      Known from = Known.of(some.from());
      if (from.layered != present.layered) {
        throw new CannotTake(
            "The two versions are written in older and newer forms of the format, which cannot be"
                + " mixed. Restore the whole version.");
      }
      for (String part : some.parts()) {
        adding.take(from, part);
      }
    }
    adding.write(base, out);
    return adding.brought;
  }

  /** What a drawing holds: layers, blocks and tables by name. */
  private static final class Known {
    private final Map<String, List<Entry>> layers = new LinkedHashMap<>();
    private final Map<String, List<Entry>> blocks = new LinkedHashMap<>();
    private final Map<String, Map<String, Entry>> tables = new LinkedHashMap<>();
    private final Set<String> sections = new LinkedHashSet<>();
    private boolean layered;
    private boolean handles;
    private long highest;
    private boolean ends;

    static Known of(Opened file) throws IOException {
      Known known = new Known();
      try {
        DxfRecords.through(file.in(), known::take);
      } catch (CannotTake told) {
        throw told;
      } catch (IOException broken) {
        throw new CannotTake("One of the two drawings cannot be read: " + broken.getMessage());
      }
      if (!known.ends) {
        throw new CannotTake("One of the two drawings ends before its end mark.");
      }
      return known;
    }

    private void take(Entry entry) {
      ends |= entry.type().equals("EOF");
      if (entry.type().equals("SECTION")) {
        sections.add(entry.first(2).orElse(""));
      } else if (!entry.block().isEmpty() && entry.section().equals("BLOCKS")) {
        blocks.computeIfAbsent(entry.block(), k -> new ArrayList<>()).add(entry);
      } else if (entry.isDrawn()) {
        layers.computeIfAbsent(entry.layer(), k -> new ArrayList<>()).add(entry);
        handles |= entry.first(5).isPresent();
        layered |= entry.first(100).isPresent();
      } else if (!entry.table().isEmpty() && entry.type().equals(entry.table())) {
        entry
            .first(2)
            .ifPresent(
                name ->
                    tables
                        .computeIfAbsent(entry.table(), k -> new LinkedHashMap<>())
                        .put(name, entry));
      }
      for (Group group : entry.groups()) {
        if (group.code() == 5 || group.code() == 105) {
          highest = Math.max(highest, handle(group.text()));
        }
      }
    }

    private static long handle(String text) {
      try {
        return Long.parseUnsignedLong(text, 16);
      } catch (NumberFormatException none) {
        return 0;
      }
    }

    boolean has(String table, String name) {
      return tables.getOrDefault(table, Map.of()).containsKey(name);
    }
  }

  /** What is put into a drawing. */
  private static final class Adding {
    private final Known present;
    private final Map<String, List<Entry>> layers = new LinkedHashMap<>();
    private final Map<String, List<Entry>> blocks = new LinkedHashMap<>();
    private final Map<String, Map<String, Entry>> tables = new LinkedHashMap<>();
    private final List<Brought> brought = new ArrayList<>();
    private final Set<String> replaced = new HashSet<>();
    private long next;

    Adding(Known present) {
      this.present = present;
      this.next = present.highest;
    }

    void take(Known from, String part) throws IOException {
      Set<String> along = new LinkedHashSet<>();
      Set<String> told = new TreeSet<>();
      boolean there;
      if (part.startsWith(BLOCKS)) {
        String name = part.substring(BLOCKS.length());
        if (!from.blocks.containsKey(name)) {
          throw new CannotTake("There is no block " + name + " in that version.");
        }
        there = present.blocks.containsKey(name);
        block(from, name, true, along, told);
      } else {
        there = present.layers.containsKey(part) || present.has("LAYER", part);
        if (!from.layers.containsKey(part) && !from.has("LAYER", part)) {
          throw new CannotTake("There is no layer " + part + " in that version.");
        }
        List<Entry> entries = from.layers.getOrDefault(part, List.of());
        layers.put(part, entries.stream().map(this::fitted).toList());
        look(from, part);
        needs(from, entries, along, told);
        replaced.add(part);
      }
      brought.add(new Brought(part, part, there, List.copyOf(along), List.copyOf(told)));
    }

    /** Its colour, line type and switches come with a layer. */
    private void look(Known from, String layer) {
      Entry entry = from.tables.getOrDefault("LAYER", Map.of()).get(layer);
      if (entry != null) {
        tables.computeIfAbsent("LAYER", k -> new LinkedHashMap<>()).put(layer, fitted(entry));
        entry.first(6).ifPresent(line -> named(from, "LTYPE", line, new LinkedHashSet<>()));
      }
    }

    private boolean isReplaced(Entry entry) {
      if (entry.section().equals("BLOCKS")) {
        return blocks.containsKey(entry.block());
      }
      return entry.isDrawn() && replaced.contains(entry.layer())
          || entry.type().equals(entry.table())
              && tables
                  .getOrDefault(entry.table(), Map.of())
                  .containsKey(entry.first(2).orElse(""));
    }

    private void needs(Known from, List<Entry> entries, Set<String> along, Set<String> told)
        throws IOException {
      for (Entry entry : entries) {
        for (Group group : entry.groups()) {
          if (NAMED.containsKey(group.code())) {
            named(from, NAMED.get(group.code()), group.text(), along);
          }
        }
        if (entry.type().equals("INSERT")) {
          block(from, entry.first(2).orElse(""), false, along, told);
        }
      }
    }

    private void named(Known from, String table, String name, Set<String> along) {
      Entry entry = from.tables.getOrDefault(table, Map.of()).get(name);
      Map<String, Entry> added = tables.computeIfAbsent(table, k -> new LinkedHashMap<>());
      if (entry != null && !present.has(table, name) && !added.containsKey(name)) {
        added.put(name, fitted(entry));
        along.add(
            switch (table) {
              case "LTYPE" -> "line type " + name;
              case "STYLE" -> "text style " + name;
              case "BLOCK_RECORD" -> "block " + name;
              default -> "layer " + name;
            });
        entry.first(6).ifPresent(line -> named(from, "LTYPE", line, along));
      }
    }

    private void block(Known from, String name, boolean itself, Set<String> along, Set<String> told)
        throws IOException {
      List<Entry> wanted = from.blocks.get(name);
      if (wanted == null) {
        told.add("it uses the block " + name + ", which is missing in its own version, too");
        return;
      }
      if (blocks.containsKey(name)) {
        return;
      }
      List<Entry> there = present.blocks.get(name);
      if (there != null && !itself) {
        if (!digest(there).equals(digest(wanted))) {
          told.add(
              "it is drawn with the block " + name + " of now, which differs from that of then");
        }
        return;
      }
      blocks.put(name, wanted.stream().map(this::fitted).toList());
      named(from, "BLOCK_RECORD", name, along);
      if (!itself) {
        along.add("block " + name);
      }
      needs(from, wanted, along, told);
    }

    private static String digest(List<Entry> block) {
      Drawn drawn = new Drawn(true, false);
      for (Entry entry : block) {
        if (!entry.type().equals("BLOCK") && !entry.type().equals("ENDBLK")) {
          DxfEntity entity = new DxfEntity(entry.type());
          entry.groups().stream().skip(1).forEach(g -> entity.add(g.code(), g.text()));
          drawn.add(entity);
        }
      }
      return drawn.digest();
    }

    /** With a handle of its own and without those of what it belonged to. */
    private Entry fitted(Entry entry) {
      List<Group> groups = new ArrayList<>();
      boolean inside = false;
      for (Group group : entry.groups()) {
        inside = inside && !(group.code() == 102 && group.text().equals("}"));
        if (group.code() == 102) {
          inside = group.text().startsWith("{");
        } else if (group.code() == 5) {
          if (present.handles) {
            groups.add(Group.of(5, Long.toHexString(++next).toUpperCase(java.util.Locale.ROOT)));
          }
        } else if (!inside && !(group.code() >= 330 && group.code() <= 369)) {
          groups.add(group);
        }
      }
      return entry.with(groups);
    }

    void write(Opened base, OutputStream out) throws IOException {
      boolean[] seed = {false};
      DxfRecords.through(
          base.in(),
          entry -> {
            if (isReplaced(entry)) {
              return;
            }
            boolean ends = entry.type().equals("ENDSEC");
            if (entry.type().equals("ENDTAB")) {
              writeAll(tables.getOrDefault(entry.table(), Map.of()).values(), out);
            } else if (ends && entry.section().equals("BLOCKS")) {
              writeBlocks(out);
            } else if (ends && entry.section().equals("ENTITIES")) {
              for (List<Entry> layer : layers.values()) {
                writeAll(layer, out);
              }
            } else if (entry.type().equals("SECTION")
                && entry.first(2).orElse("").equals("ENTITIES")
                && !present.sections.contains("BLOCKS")
                && !blocks.isEmpty()) {
              Group.of(0, "SECTION").write(out);
              Group.of(2, "BLOCKS").write(out);
              writeBlocks(out);
              Group.of(0, "ENDSEC").write(out);
            }
            for (Group group : entry.groups()) {
              boolean handle = seed[0] && group.code() == 5;
              (handle ? Group.of(5, Long.toHexString(next + 1)) : group).write(out);
              seed[0] = group.code() == 9 && group.text().equals("$HANDSEED");
            }
          });
    }

    private void writeBlocks(OutputStream out) throws IOException {
      for (List<Entry> block : blocks.values()) {
        writeAll(block, out);
      }
    }

    private static void writeAll(Iterable<Entry> entries, OutputStream out) throws IOException {
      for (Entry entry : entries) {
        entry.write(out);
      }
    }
  }
}
