package dev.kavrin.core.settings;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A program's settings, of which single values can be read and exchanged while every other byte
 * stays: comments, order, line ends, encoding and byte order mark. Immutable.
 */
public final class SettingsText {
  /** What is larger is no settings file. */
  public static final long LARGEST = 64_000_000;

  private final Syntax syntax;
  private final Charset charset;
  private final int mark;
  private final byte[] bytes;
  private final String text;
  private final List<SettingsEntry> entries;

  private SettingsText(Syntax syntax, Charset charset, int mark, byte[] bytes)
      throws SettingsException {
    this.syntax = syntax;
    this.charset = charset;
    this.mark = mark;
    this.bytes = bytes;
    this.text = new String(bytes, mark, bytes.length - mark, charset);
    this.entries = syntax.entries(text);
  }

  /**
   * @param separator between key and value, for {@link SettingsKind#LINES} only
   * @throws SettingsException the bytes are of another kind
   */
  public static SettingsText of(byte[] bytes, SettingsKind kind, String separator)
      throws SettingsException {
    Syntax syntax = kind.syntax(separator);
    if (kind == SettingsKind.SQLITE) {
      return new SettingsText(syntax, StandardCharsets.ISO_8859_1, 0, bytes);
    }
    if (starts(bytes, 0xEF, 0xBB, 0xBF)) {
      return new SettingsText(syntax, StandardCharsets.UTF_8, 3, bytes);
    }
    if (starts(bytes, 0xFF, 0xFE)) {
      return new SettingsText(syntax, StandardCharsets.UTF_16LE, 2, bytes);
    }
    if (starts(bytes, 0xFE, 0xFF)) {
      return new SettingsText(syntax, StandardCharsets.UTF_16BE, 2, bytes);
    }
    return new SettingsText(
        syntax, isUtf8(bytes) ? StandardCharsets.UTF_8 : StandardCharsets.ISO_8859_1, 0, bytes);
  }

  private static boolean starts(byte[] bytes, int... mark) {
    for (int i = 0; i < mark.length; i++) {
      if (bytes.length <= i || (bytes[i] & 0xFF) != mark[i]) {
        return false;
      }
    }
    return true;
  }

  private static boolean isUtf8(byte[] bytes) {
    try {
      StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
      return true;
    } catch (CharacterCodingException other) {
      return false;
    }
  }

  public List<SettingsEntry> entries() {
    return entries;
  }

  /** The last one counts where a key stands twice. */
  public Optional<String> value(String key) {
    return entries.stream()
        .filter(e -> e.key().equals(key))
        .reduce((earlier, later) -> later)
        .map(SettingsEntry::value);
  }

  public byte[] bytes() {
    return bytes.clone();
  }

  /**
   * The same with other values; a key that stands twice is set twice, a missing one is added where
   * its neighbours stand.
   *
   * @throws SettingsException a value cannot be written, or is not read back as it was meant
   */
  public SettingsText with(Map<String, String> values) throws SettingsException {
    StringBuilder changed = new StringBuilder(text);
    List<SettingsEntry> backwards =
        entries.stream()
            .filter(e -> values.containsKey(e.key()) && !values.get(e.key()).equals(e.value()))
            .sorted(Comparator.comparingInt(SettingsEntry::from).reversed())
            .toList();
    for (SettingsEntry entry : backwards) {
      String raw = text.substring(entry.from(), entry.to());
      changed.replace(entry.from(), entry.to(), syntax.raw(values.get(entry.key()), raw));
    }
    String result = changed.toString();
    for (Map.Entry<String, String> value : values.entrySet()) {
      if (value(value.getKey()).isEmpty()) {
        result = syntax.added(result, value.getKey(), value.getValue());
      }
    }
    return readBack(result, values);
  }

  private SettingsText readBack(String result, Map<String, String> values)
      throws SettingsException {
    byte[] body = result.getBytes(charset);
    if (!new String(body, charset).equals(result)) {
      throw new SettingsException("A value has characters that " + charset + " does not know");
    }
    byte[] all = new byte[mark + body.length];
    System.arraycopy(bytes, 0, all, 0, mark);
    System.arraycopy(body, 0, all, mark, body.length);
    SettingsText changed = new SettingsText(syntax, charset, mark, all);
    for (Map.Entry<String, String> value : values.entrySet()) {
      if (!changed.value(value.getKey()).equals(Optional.of(value.getValue()))) {
        throw new SettingsException(
            value.getKey() + " cannot be written as " + value.getValue() + " here");
      }
    }
    return changed;
  }
}
