package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.Bytes;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;

/** Goes through a drawing record by record. */
final class DxfWalk {
  private static final int REMARK = 999;

  private final Visitor visitor;
  private String section = "";
  private boolean inSection;
  private String block = "";
  private String variable = "";
  private DxfEntity now;

  private DxfWalk(Visitor visitor) {
    this.visitor = visitor;
  }

  /** Told what is met. */
  interface Visitor {
    default void header(String variable, int code, String value) {}

    /** A layer, a picture or a block begins, by its type. */
    default void record(DxfEntity record) {}

    /**
     * @param block name of the block it belongs to, null if it stands on the sheet
     */
    void drawn(@Nullable String block, DxfEntity entity);
  }

  /**
   * @throws DxfPairs.NoPair it cannot be read to its end mark; what stood before was told
   */
  static void through(SeekableByteChannel in, Visitor visitor) throws IOException {
    DxfPairs pairs = new DxfPairs(Bytes.from(in, 0));
    DxfWalk walk = new DxfWalk(visitor);
    try {
      while (pairs.next()) {
        walk.check(pairs);
        walk.take(pairs.code(), pairs.value());
      }
      if (walk.inSection) {
        throw pairs.broken("is the end mark inside a section");
      }
    } finally {
      walk.end();
    }
  }

  /** All but remarks stands in a section, and no section in another. */
  private void check(DxfPairs pairs) throws DxfPairs.NoPair {
    boolean begins = pairs.code() == 0 && pairs.value().equals("SECTION");
    if (begins && inSection) {
      throw pairs.broken("begins a section inside another");
    }
    if (!begins && !inSection && pairs.code() != REMARK) {
      throw pairs.broken("stands in no section");
    }
    if (pairs.code() == 0) {
      inSection = !pairs.value().equals("ENDSEC");
    }
  }

  private void take(int code, String value) {
    if (code == 0) {
      begin(value);
    } else if (section.equals("HEADER")) {
      variable = code == 9 ? value : variable;
      visitor.header(variable, code, value);
    } else if (now != null) {
      if (code == 2 && now.type().equals("SECTION")) {
        section = value;
      }
      now.add(code, value);
    }
  }

  /** Vertices and attributes belong to what stands before them. */
  private void begin(String type) {
    boolean goesOn =
        now != null
            && (type.equals("VERTEX") && now.type().equals("POLYLINE")
                || type.equals("ATTRIB") && now.type().equals("INSERT"));
    if (!goesOn) {
      end();
      now = new DxfEntity(type);
    }
  }

  private void end() {
    if (now == null) {
      return;
    }
    switch (now.type()) {
      case "SECTION", "SEQEND", "TABLE", "ENDTAB", "VERTEX" -> {}
      case "ENDSEC" -> section = "";
      case "LAYER", "IMAGEDEF" -> visitor.record(now);
      case "BLOCK" -> {
        block = now.first(2).orElse("");
        visitor.record(now);
      }
      case "ENDBLK" -> block = "";
      default -> {
        if (section.equals("ENTITIES")) {
          visitor.drawn(null, now);
        } else if (section.equals("BLOCKS") && !block.isEmpty()) {
          visitor.drawn(block, now);
        }
      }
    }
    now = null;
  }
}
