package dev.kavrin.core.settings;

import java.util.List;

/** How one kind of settings file writes keys and values. Everything else in it stays untouched. */
interface Syntax {
  /**
   * Every value that can be named, in order.
   *
   * @throws SettingsException the text is of another kind
   */
  List<SettingsEntry> entries(String text) throws SettingsException;

  /**
   * A value as it is written in place of another.
   *
   * @param raw what stands there now
   */
  String raw(String value, String raw) throws SettingsException;

  /**
   * The text with a key that was missing.
   *
   * @throws SettingsException the place for it is missing too
   */
  String added(String text, String key, String value) throws SettingsException;

  static String lineEnd(String text) {
    int at = text.indexOf('\n');
    return at > 0 && text.charAt(at - 1) == '\r' ? "\r\n" : "\n";
  }

  static String parent(String key) {
    int at = key.lastIndexOf('/');
    return at < 0 ? "" : key.substring(0, at);
  }

  static String name(String key) {
    return key.substring(key.lastIndexOf('/') + 1);
  }
}
