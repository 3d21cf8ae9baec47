package dev.kavrin.core.settings;

import java.io.IOException;

/** A settings text is not what it claims to be, or cannot carry a value; nothing was changed. */
public final class SettingsException extends IOException {
  private static final long serialVersionUID = 1;

  public SettingsException(String message) {
    super(message);
  }
}
