package dev.kavrin.core.settings;

import java.util.List;

/** The whole file is one value; line ends behind it are not part of it. */
final class SingleSyntax implements Syntax {
  static final String KEY = "value";

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    String value = text.stripTrailing();
    if (value.indexOf('\n') >= 0 || value.indexOf('\0') >= 0) {
      throw new SettingsException("It holds more than one line, so it is no single value");
    }
    return List.of(new SettingsEntry(KEY, value, 0, value.length()));
  }

  @Override
  public String raw(String value, String raw) {
    return value;
  }

  @Override
  public String added(String text, String key, String value) throws SettingsException {
    throw new SettingsException("A file of a single value has no " + key);
  }
}
