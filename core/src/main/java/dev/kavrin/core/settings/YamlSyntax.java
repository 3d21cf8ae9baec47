package dev.kavrin.core.settings;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Parse;
import org.snakeyaml.engine.v2.common.FlowStyle;
import org.snakeyaml.engine.v2.events.AliasEvent;
import org.snakeyaml.engine.v2.events.CollectionEndEvent;
import org.snakeyaml.engine.v2.events.Event;
import org.snakeyaml.engine.v2.events.MappingStartEvent;
import org.snakeyaml.engine.v2.events.ScalarEvent;
import org.snakeyaml.engine.v2.events.SequenceStartEvent;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;

/**
 * YAML 1.2. Members of a sequence are named by their number; values of several lines are read only.
 */
final class YamlSyntax implements Syntax {
  private static final LoadSettings SETTINGS = LoadSettings.builder().setUseMarks(true).build();

  /** Numbers, words and paths that no reader takes for anything else. */
  private static final Pattern PLAIN =
      Pattern.compile("-?\\d+(\\.\\d+)?|(~/|[A-Za-z_/$.]\\w)[\\w ./~$+%-]*|[A-Za-z_/$]");

  /** An open mapping or sequence. */
  private static final class Block extends Level {
    private final boolean flow;
    private int column = -1;
    private int behind = -1;

    Block(Level parent, boolean numbered, FlowStyle style) {
      super(parent, numbered);
      this.flow = style == FlowStyle.FLOW;
    }
  }

  private record Scan(List<SettingsEntry> entries, List<Block> mappings) {}

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    return scan(text).entries();
  }

  private static Scan scan(String text) throws SettingsException {
    List<SettingsEntry> entries = new ArrayList<>();
    List<Block> mappings = new ArrayList<>();
    Deque<Block> open = new ArrayDeque<>();
    try {
      for (Event event : new Parse(SETTINGS).parseString(text)) {
        Block level = open.peek();
        if (event instanceof MappingStartEvent e) {
          open.push(new Block(level, false, e.getFlowStyle()));
        } else if (event instanceof SequenceStartEvent e) {
          open.push(new Block(level, true, e.getFlowStyle()));
        } else if (event instanceof CollectionEndEvent) {
          Block done = open.pop();
          if (done.isNamed()) {
            mappings.add(done);
          }
          if (!open.isEmpty()) {
            open.peek().behind = Math.max(open.peek().behind, done.behind);
          }
        } else if (event instanceof AliasEvent && level != null && !level.wantsName()) {
          level.child();
          level.behind = at(text, event.getEndMark());
        } else if (event instanceof ScalarEvent e) {
          Mark start = e.getStartMark().orElseThrow();
          int to = at(text, e.getEndMark());
          if (level != null && level.wantsName()) {
            level.name(e.getValue());
            level.column = level.column < 0 ? start.getColumn() : level.column;
            level.behind = to;
          } else {
            int from = at(text, e.getStartMark());
            entries.add(new SettingsEntry(Level.member(level), e.getValue(), from, to));
            if (level != null) {
              level.behind = to;
            }
          }
        }
      }
    } catch (YamlEngineException broken) {
      throw new SettingsException(
          "It is no YAML: " + broken.getMessage().lines().findFirst().orElse(""));
    }
    return new Scan(entries, mappings);
  }

  private static int at(String text, Optional<Mark> mark) {
    return text.offsetByCodePoints(0, mark.orElseThrow().getIndex());
  }

  @Override
  public String raw(String value, String raw) throws SettingsException {
    if (raw.startsWith("|") || raw.startsWith(">") || raw.indexOf('\n') >= 0) {
      throw new SettingsException("A value of several lines is not written over");
    }
    if (raw.startsWith("\"")) {
      return '"' + value.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }
    boolean plain = PLAIN.matcher(value).matches() && !value.endsWith(" ");
    return plain && !raw.startsWith("'") ? value : "'" + value.replace("'", "''") + "'";
  }

  @Override
  public String added(String text, String key, String value) throws SettingsException {
    String parent = Syntax.parent(key);
    Block mapping =
        scan(text).mappings().stream()
            .filter(m -> m.path().equals(parent) && !m.flow && m.behind >= 0)
            .findFirst()
            .orElseThrow(() -> new SettingsException("There is no " + parent + " to put it into"));
    int lineEnd = mapping.behind;
    while (lineEnd < text.length() && "\r\n".indexOf(text.charAt(lineEnd)) < 0) {
      lineEnd++;
    }
    String line = " ".repeat(mapping.column) + Syntax.name(key) + ": " + raw(value, "");
    return text.substring(0, lineEnd) + Syntax.lineEnd(text) + line + text.substring(lineEnd);
  }
}
