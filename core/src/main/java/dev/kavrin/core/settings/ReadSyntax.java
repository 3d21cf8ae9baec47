package dev.kavrin.core.settings;

/**
 * Settings that are read and never written: an export, of which the program takes no notice, or a
 * store that is the program's own to write.
 */
abstract class ReadSyntax implements Syntax {
  @Override
  public final String raw(String value, String raw) throws SettingsException {
    throw readOnly();
  }

  @Override
  public final String added(String text, String key, String value) throws SettingsException {
    throw readOnly();
  }

  private static SettingsException readOnly() {
    return new SettingsException("Settings of this kind are only read: set them in the program");
  }

  /** A value that stands nowhere it could be exchanged. */
  static SettingsEntry entry(String key, String value) {
    return new SettingsEntry(key, value, 0, 0);
  }
}
