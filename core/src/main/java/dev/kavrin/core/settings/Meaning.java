package dev.kavrin.core.settings;

/** What a key in a program's settings decides. */
public enum Meaning {
  ENABLED("its own autosave"),
  INTERVAL("time between its autosaves"),
  COUNT("autosaves it keeps"),
  FOLDER("folder of its autosaves"),
  KEEP_EARLIER("keeping the earlier file on save");

  private final String words;

  Meaning(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
