package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.LineBytes;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * A drawing as records, each beginning with group 0, in the very bytes of the file. A polyline with
 * its vertices and an insert with its attributes are one.
 */
final class DxfRecords {
  /** A group as it stands in the file, without the last character of its line ends. */
  record Group(int code, byte[] number, byte[] value) {
    static Group of(int code, String value) {
      return new Group(
          code, "%3d".formatted(code).getBytes(), value.getBytes(StandardCharsets.UTF_8));
    }

    String text() {
      return new String(value, StandardCharsets.UTF_8).strip();
    }

    void write(OutputStream out) throws IOException {
      out.write(number);
      out.write('\n');
      out.write(value);
      out.write('\n');
    }
  }

  /**
   * @param section it stands in, empty for what opens one
   * @param table it stands in
   * @param block it stands in, empty on the sheet
   * @param groups the first is group 0
   */
  record Entry(String section, String table, String block, List<Group> groups) {
    String type() {
      return groups.get(0).text();
    }

    Optional<String> first(int code) {
      return groups.stream().filter(g -> g.code() == code).map(Group::text).findFirst();
    }

    /** Of a drawn thing. */
    String layer() {
      return first(8).orElse("0");
    }

    boolean isDrawn() {
      return section.equals("ENTITIES") && !type().equals("ENDSEC");
    }

    void write(OutputStream out) throws IOException {
      for (Group group : groups) {
        group.write(out);
      }
    }

    Entry with(List<Group> others) {
      return new Entry(section, table, block, List.copyOf(others));
    }
  }

  /** Told of each record in the order of the file, the end mark included. */
  interface Visitor {
    void record(Entry entry) throws IOException;
  }

  private final Visitor visitor;
  private final List<Group> now = new ArrayList<>();
  private String section = "";
  private String table = "";
  private String block = "";

  private DxfRecords(Visitor visitor) {
    this.visitor = visitor;
  }

  /** Groups before the first record, as comments, are left out. */
  static void through(SeekableByteChannel in, Visitor visitor) throws IOException {
    LineBytes line = new LineBytes(Bytes.from(in, 0));
    DxfRecords walk = new DxfRecords(visitor);
    while (line.next()) {
      byte[] number = Arrays.copyOf(line.bytes(), line.length());
      int code;
      try {
        code = Integer.parseInt(line.text());
      } catch (NumberFormatException broken) {
        throw new IOException("Line " + line.number() + " is no group code.");
      }
      if (!line.next()) {
        throw new IOException("It ends before its end mark.");
      }
      walk.take(new Group(code, number, Arrays.copyOf(line.bytes(), line.length())));
    }
    walk.end();
  }

  private void take(Group group) throws IOException {
    if (group.code() == 0 && !goesOn(group.text())) {
      end();
    }
    if (!now.isEmpty() || group.code() == 0) {
      now.add(group);
    }
  }

  private boolean goesOn(String type) {
    if (now.isEmpty()) {
      return false;
    }
    String head = now.get(0).text();
    return switch (type) {
      case "VERTEX" -> head.equals("POLYLINE");
      case "ATTRIB" -> head.equals("INSERT");
      case "SEQEND" -> head.equals("POLYLINE") || head.equals("INSERT");
      default -> false;
    };
  }

  private void end() throws IOException {
    if (now.isEmpty()) {
      return;
    }
    Entry entry = new Entry(section, table, block, List.copyOf(now));
    now.clear();
    switch (entry.type()) {
      case "SECTION" -> section = entry.first(2).orElse("");
      case "TABLE" -> table = entry.first(2).orElse("");
      case "BLOCK" -> block = entry.first(2).orElse("");
      default -> {}
    }
    visitor.record(
        entry.type().equals("BLOCK") ? new Entry(section, table, block, entry.groups()) : entry);
    switch (entry.type()) {
      case "ENDSEC" -> section = "";
      case "ENDTAB" -> table = "";
      case "ENDBLK" -> block = "";
      default -> {}
    }
  }
}
