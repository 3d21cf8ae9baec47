package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.Sha256;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.NoSuchFileException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A project's journal in a store: numbered objects of lines, none of them ever changed. With the
 * objects it tells of it is enough to bring everything back.
 */
public final class OffsiteJournal {
  static final String FOLDER = "journal/";
  private static final Pattern SEGMENT = Pattern.compile("\\d{8}\\.jsonl");

  private final Store store;
  private final String begin;
  private final History history;
  private final List<String> lacking;
  private long last;

  private OffsiteJournal(
      Store store, String begin, History history, long last, List<String> lacking) {
    this.store = store;
    this.begin = begin;
    this.history = history;
    this.last = last;
    this.lacking = lacking;
  }

  /**
   * Reads all segments; none are an empty history. A list that leaves some out is not believed:
   * each number up to the last, and those behind it, are asked for by name.
   *
   * @param begin what all names of the project begin with
   */
  public static OffsiteJournal read(Store store, String begin) throws IOException {
    long listed = 0;
    for (StoredObject object : store.list(begin + FOLDER)) {
      Matcher number = SEGMENT.matcher(object.name().substring((begin + FOLDER).length()));
      if (number.matches()) {
        listed = Math.max(listed, Long.parseLong(number.group().substring(0, 8)));
      }
    }
    List<JournalEntry> entries = new ArrayList<>();
    List<String> lacking = new ArrayList<>();
    long last = 0;
    while (last < listed || store.find(name(begin, last + 1)).isPresent()) {
      last++;
      try {
        entries.addAll(entries(store, name(begin, last)));
      } catch (NoSuchFileException gone) {
        lacking.add(name(begin, last));
      }
    }
    return new OffsiteJournal(store, begin, History.of(entries), last, lacking);
  }

  /** Segments that are gone from the store; what only they told of is not known. */
  public List<String> lacking() {
    return List.copyOf(lacking);
  }

  private static List<JournalEntry> entries(Store store, String name) throws IOException {
    try (InputStream in = store.get(name)) {
      return Journal.read(in).entries();
    }
  }

  public History history() {
    return history;
  }

  /** Writes the next segment; returns once the store has it. */
  void append(List<JournalEntry> entries) throws IOException {
    if (entries.isEmpty()) {
      return;
    }
    StringBuilder lines = new StringBuilder();
    entries.forEach(e -> lines.append(Journal.line(e)));
    Body body = Body.of(lines.toString().getBytes(StandardCharsets.UTF_8));
    String name = name(begin, last + 1);
    while (store.put(name, body) == Arrival.NAME_TAKEN && !isThere(name, body)) {
      entries(store, name).forEach(history::add);
      last++;
      name = name(begin, last + 1);
    }
    last++;
    entries.forEach(history::add);
  }

  private boolean isThere(String name, Body body) throws IOException {
    try (InputStream in = store.get(name)) {
      return Sha256.of(in).equals(body.sha256());
    }
  }

  private static String name(String begin, long number) {
    return begin + FOLDER + String.format(Locale.ROOT, "%08d.jsonl", number);
  }
}
