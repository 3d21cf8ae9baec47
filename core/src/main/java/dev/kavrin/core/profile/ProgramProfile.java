package dev.kavrin.core.profile;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.naming.Surroundings;
import dev.kavrin.core.settings.AskedSettings;
import dev.kavrin.core.settings.SettingsLink;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * What is known of one authoring program.
 *
 * @param name as people call it
 * @param process words that stand in the command line of its process; empty if unknown
 * @param sessionSign name of the file that stands while a document is open, or null
 * @param writesEvery how often it writes a copy of its own accord, null if unknown
 * @param leftovers where it leaves copies and what they are called
 * @param settings where its own settings lie and what they should say, null if not linked
 * @param lockText what it writes into its lock file, null if unknown
 * @param crashLog where it writes down itself that it crashed, null if it does not
 * @param ownFiles its templates, presets and the like, which are no documents
 * @param asked its own settings as a person found them, null if nobody was asked
 */
public record ProgramProfile(
    String name,
    String process,
    @Nullable NamePattern sessionSign,
    @Nullable Duration writesEvery,
    List<Leftover> leftovers,
    @Nullable SettingsLink settings,
    @Nullable LockText lockText,
    @Nullable CrashLog crashLog,
    List<OwnFiles> ownFiles,
    @Nullable AskedSettings asked) {
  public static final ProgramProfile UNKNOWN =
      new ProgramProfile("unknown program", "", null, null, List.of(), null);

  /**
   * A program of which no text of its lock file, no crash log and no files of its own are known.
   */
  public ProgramProfile(
      String name,
      String process,
      @Nullable NamePattern sessionSign,
      @Nullable Duration writesEvery,
      List<Leftover> leftovers,
      @Nullable SettingsLink settings) {
    this(name, process, sessionSign, writesEvery, leftovers, settings, null, null, List.of(), null);
  }

  /** A program whose own settings nobody was asked for. */
  public ProgramProfile(
      String name,
      String process,
      @Nullable NamePattern sessionSign,
      @Nullable Duration writesEvery,
      List<Leftover> leftovers,
      @Nullable SettingsLink settings,
      @Nullable LockText lockText,
      @Nullable CrashLog crashLog,
      List<OwnFiles> ownFiles) {
    this(
        name,
        process,
        sessionSign,
        writesEvery,
        leftovers,
        settings,
        lockText,
        crashLog,
        ownFiles,
        null);
  }

  public ProgramProfile {
    ownFiles = ownFiles == null ? List.of() : List.copyOf(ownFiles);
  }

  /**
   * @param kind what such a file is
   * @param pattern name, with the document's stem in {@code {stem}} unless the folder names it
   */
  public record Leftover(CopyKind kind, FolderPattern folder, NamePattern pattern) {
    public static Leftover of(CopyKind kind, String folder, String pattern) {
      return new Leftover(kind, FolderPattern.of(folder), NamePattern.of(pattern));
    }

    /**
     * The folders that are there for a document; none if a variable in their path is not set here.
     */
    public List<Path> folders(Disk disk, Path document) {
      try {
        return folder.folders(disk, document, Surroundings.here());
      } catch (IllegalArgumentException unset) {
        return List.of();
      }
    }

    /** What a file's name tells as a copy of a document; empty if it is none by its name. */
    public Optional<NameFields> read(String fileName, String documentName) {
      return pattern
          .parse(fileName, FileName.of(documentName))
          .filter(f -> pattern.tellsStem() || folder.namesTheDocument());
    }

    public boolean fits(String fileName, String documentName) {
      return read(fileName, documentName).isPresent();
    }

    /**
     * True if it fits that document, and no other that could have its copies in the same folder by
     * a longer name: "gear_2_a" is a copy of gear_2, not of gear.
     *
     * @param documents paths of all documents there are, the one meant among them or not
     */
    public boolean isOf(String fileName, Path document, Collection<Path> documents) {
      String own = document.getFileName().toString();
      return fits(fileName, own)
          && documents.stream()
              .filter(d -> !folder.staysInside() || d.getParent().equals(document.getParent()))
              .map(d -> d.getFileName().toString())
              .noneMatch(other -> other.length() > own.length() && fits(fileName, other));
    }
  }

  /** Every folder that is looked into for it. */
  public List<FolderPattern> folders() {
    return Stream.concat(
            leftovers.stream().map(Leftover::folder),
            Optional.ofNullable(crashLog).map(CrashLog::folder).stream())
        .distinct()
        .toList();
  }

  /** The same with its settings linked, or with null not. */
  public ProgramProfile linked(@Nullable SettingsLink link) {
    return new ProgramProfile(
        name,
        process,
        sessionSign,
        writesEvery,
        leftovers,
        link,
        lockText,
        crashLog,
        ownFiles,
        asked);
  }

  /** The same with other files of its own. */
  public ProgramProfile with(List<OwnFiles> files) {
    return new ProgramProfile(
        name,
        process,
        sessionSign,
        writesEvery,
        leftovers,
        settings,
        lockText,
        crashLog,
        files,
        asked);
  }

  /** The same with the settings a person found in the program, or with null not. */
  public ProgramProfile asked(@Nullable AskedSettings settingsFound) {
    return new ProgramProfile(
        name,
        process,
        sessionSign,
        writesEvery,
        leftovers,
        settings,
        lockText,
        crashLog,
        ownFiles,
        settingsFound);
  }

  /** Settings that were looked up just now come without a time; the same with that of now. */
  public ProgramProfile askedBy(Instant now) {
    return asked == null || asked.at() != null ? this : asked(asked.lookedUp(now));
  }

  /** The session sign beside a document, if the program keeps one. */
  public Optional<Path> signFor(Path document) {
    if (sessionSign == null) {
      return Optional.empty();
    }
    FileName name = FileName.of(document.getFileName().toString());
    return Optional.of(
        document.resolveSibling(
            sessionSign.format(
                NameFields.of(name.stem(), name.ext().isEmpty() ? "none" : name.ext()))));
  }
}
