package dev.kavrin.core.journal;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonSubTypes.Type;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import jakarta.annotation.Nullable;
import java.util.List;
import java.util.UUID;

/**
 * Something done to files: written down whole before it is done, and ended afterwards. What a kill
 * leaves open is finished as planned or taken back ({@link JournalRecovery}); there is no third
 * way.
 *
 * @param id of this operation, new
 */
public record Operation(UUID id, Planned planned) {
  public static Operation of(Planned planned) {
    return new Operation(UUID.randomUUID(), planned);
  }

  /** The same with what only doing it told, such as what was read back. */
  public Operation with(Planned done) {
    return new Operation(id, done);
  }

  /** The whole planned record. Paths are relative to the backup folder unless said otherwise. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
  @JsonSubTypes({
    @Type(value = Backup.class, name = "backup"),
    @Type(value = Drop.class, name = "drop"),
    @Type(value = TakeBack.class, name = "take-back"),
    @Type(value = Purge.class, name = "purge"),
    @Type(value = Compact.class, name = "compact"),
    @Type(value = Recompact.class, name = "recompact"),
    @Type(value = ClearPack.class, name = "clear-pack"),
    @Type(value = ClearLeftover.class, name = "clear-leftover"),
    @Type(value = Restore.class, name = "restore"),
    @Type(value = SettingsChange.class, name = "settings")
  })
  public sealed interface Planned {}

  /** A verified stage gets the name of a backup. */
  public record Backup(BackupRecord backup) implements Planned {}

  /** A backup goes to the bin. */
  public record Drop(String path, String bin, String why) implements Planned {
    /** Why it goes if nobody asked for it. */
    public static final String BY_PLAN = "no longer kept by the plan";

    boolean isByHand() {
      return !BY_PLAN.equals(why);
    }
  }

  /** A backup comes back from the bin, under its former name. */
  public record TakeBack(String bin, String path) implements Planned {}

  /** A binned backup goes for good. */
  public record Purge(String bin) implements Planned {}

  /**
   * A backup is put together from packs from now on, by a recipe that stands beside its former
   * name; its plain bytes go to the bin.
   *
   * @param path of the backup, before and after
   * @param stored bytes it newly needs: its recipe and the chunks that no older one has
   */
  public record Compact(String path, String bin, long stored) implements Planned {}

  /**
   * A compacted backup gets a recipe that needs other packs.
   *
   * @param path of the backup
   * @param bin where its former recipe waits until the other stands
   */
  public record Recompact(String path, String bin) implements Planned {}

  /** A pack that no recipe needs goes for good. */
  public record ClearPack(String pack) implements Planned {}

  /**
   * A program's own leftover goes, because a backup has its bytes.
   *
   * @param document whose
   * @param file absolute
   * @param aside absolute: its name while it is compared
   * @param copy which has its bytes
   */
  public record ClearLeftover(
      @Nullable UUID document, String file, @Nullable String aside, String copy)
      implements Planned {}

  /**
   * One restore, or several that are one: all are done or none.
   *
   * @param group what they are together, null for one by itself
   */
  public record Restore(List<Replacement> members, @Nullable Group group) implements Planned {
    public Restore {
      members = List.copyOf(members);
    }

    public static Restore of(Replacement one) {
      return new Restore(List.of(one), null);
    }

    public List<Receipt> receipts() {
      return members.stream().map(Replacement::receipt).toList();
    }
  }

  /**
   * What several restores are together.
   *
   * @param what in words, for the record
   * @param undoes the group that this takes back, null if none
   */
  public record Group(UUID project, String who, String what, @Nullable UUID undoes) {}

  /** How a restore changes names. */
  public enum Change {
    /** The target is free; it is made from the source. */
    CREATE,
    /** The target stands; a copy of the source takes its place and it stands aside. */
    REPLACE,
    /** Target and aside change places in one step. */
    SWAP,
    /** The target moves aside; nothing stands there then. */
    MOVE_ASIDE,
    /** What stands aside moves to the target, where nothing stands. */
    MOVE_BACK
  }

  /**
   * One file that is replaced or made.
   *
   * @param id of its receipt
   * @param receipt as planned: {@code content} is what will stand at the target, {@code former}
   *     what stands there before; absolute paths
   * @param like absolute path of the file whose owner and permissions a new one gets; else null
   */
  public record Replacement(
      UUID id, Receipt receipt, @Nullable Change change, @Nullable String like) {
    public Replacement with(Receipt done) {
      return new Replacement(id, done, change, like);
    }
  }

  /**
   * A program's own settings file gets other values.
   *
   * @param content what it will hold
   * @param former what it holds before
   */
  public record SettingsChange(JournalEntry.SettingsPut put, ContentId content, ContentId former)
      implements Planned {}
}
