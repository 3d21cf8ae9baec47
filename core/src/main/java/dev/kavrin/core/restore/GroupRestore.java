package dev.kavrin.core.restore;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalEntry.GroupMeant;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.restore.Restorer.Order;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/**
 * Several restores as one: all are done or none, and one undo takes all back. Everything is made
 * ready first, which may take long; then the names are swapped one after the other, which is short.
 * If one cannot be put in place, or Kavrin is killed in between, those before it are taken back.
 */
public final class GroupRestore {
  private final Disk disk;
  private final Restorer restorer;
  private final BackupFolder recovery;
  private final InstantSource clock;

  public GroupRestore(Disk disk, Restorer restorer, BackupFolder recovery, InstantSource clock) {
    this.disk = disk;
    this.restorer = restorer;
    this.recovery = recovery;
    this.clock = clock;
  }

  /**
   * What is to be done.
   *
   * @param group chosen by the caller, new
   * @param what in words, for the record
   */
  public record Deed(UUID group, UUID project, String what, List<Order> orders) {
    public Deed {
      orders = List.copyOf(orders);
    }

    private GroupMeant meant(InstantSource clock, String who) {
      List<UUID> ops = orders.stream().map(Order::op).toList();
      return new GroupMeant(clock.instant(), group, project, who, what, ops, null);
    }
  }

  /**
   * @return one receipt for each, in order
   * @throws ChangedMeanwhileException one is not what its plan saw; nothing was done
   * @throws NoRoomException there is not room for all; nothing was done
   * @throws IOException one could not be put in place; all are as they were before
   */
  public List<Receipt> restore(Deed deed, String who, boolean programRuns) throws IOException {
    checkTargets(deed);
    checkRoom(deed);
    recovery.record(deed.meant(clock, who));
    List<Order> ready = new ArrayList<>();
    List<Receipt> done = new ArrayList<>();
    try {
      for (Order order : deed.orders()) {
        ready.add(order);
        restorer.layReady(order);
      }
      for (Order order : deed.orders()) {
        done.add(restorer.put(order, who, programRuns));
      }
    } catch (IOException | RuntimeException failed) {
      takeBack(ready, done, failed);
      end(deed.group(), false, "Everything is as it was before: " + failed.getMessage());
      throw failed;
    }
    end(deed.group(), true, "");
    return done;
  }

  private static void checkTargets(Deed deed) throws IOException {
    Set<Path> targets = new HashSet<>();
    for (Order order : deed.orders()) {
      if (!targets.add(order.plan().target())) {
        throw new IOException(order.plan().target() + " is named twice. Nothing was touched");
      }
    }
  }

  /** Room for all together; folders with the same room count as one drive. */
  private void checkRoom(Deed deed) throws IOException {
    Map<Long, Long> wanted = new HashMap<>();
    for (Order order : deed.orders()) {
      Path folder = FreeNames.standing(disk, order.plan().target().getParent());
      long free = disk.room(folder);
      long all = wanted.merge(free, order.plan().bytes(), Long::sum);
      if (free < all) {
        throw new NoRoomException(folder, all, free);
      }
    }
  }

  private void takeBack(List<Order> ready, List<Receipt> done, Exception failed)
      throws IOException {
    for (int i = done.size() - 1; i >= 0; i--) {
      restorer.undo(done.get(i), "Kavrin");
    }
    for (Order order : ready.subList(done.size(), ready.size())) {
      restorer.giveUp(order, failed);
    }
  }

  /**
   * Takes a group back, the last first. An undo can be undone in the same way.
   *
   * @param group chosen by the caller, new
   * @param undoes the group that is taken back
   * @param receipts of its restores, in order
   * @throws IOException one could not be taken back; all are as they were before the undo
   */
  public List<Receipt> undo(
      UUID group, UUID project, UUID undoes, String what, List<Receipt> receipts, String who)
      throws IOException {
    List<UUID> ops = receipts.stream().map(r -> UUID.randomUUID()).toList();
    recovery.record(new GroupMeant(clock.instant(), group, project, who, what, ops, undoes));
    List<Receipt> done = new ArrayList<>();
    try {
      for (int i = receipts.size() - 1; i >= 0; i--) {
        done.add(restorer.undo(ops.get(done.size()), receipts.get(i), who));
      }
    } catch (IOException | RuntimeException failed) {
      for (int i = done.size() - 1; i >= 0; i--) {
        restorer.undo(done.get(i), "Kavrin");
      }
      end(group, false, "Nothing was taken back: " + failed.getMessage());
      throw failed;
    }
    end(group, true, "");
    return done;
  }

  /**
   * Ends what a stop left in the middle: restores are taken back, an undo is carried through. Call
   * after each restore by itself was settled.
   */
  public void settle() throws IOException {
    History history = recovery.history();
    for (GroupMeant open : history.openGroups()) {
      boolean undo = open.undoes() != null;
      for (Receipt receipt : newestFirst(history, undo ? open.undoes() : open.group())) {
        if (restorer.stillStands(receipt)) {
          restorer.undo(receipt, undo ? open.who() : "Kavrin");
        }
      }
      end(
          open.group(),
          undo,
          undo
              ? "Completed after Kavrin was stopped midway."
              : "Kavrin was stopped midway; everything is as it was before.");
    }
  }

  private static List<Receipt> newestFirst(History history, UUID group) {
    List<Receipt> receipts = new ArrayList<>();
    for (UUID op : history.group(group).map(GroupMeant::ops).orElse(List.of())) {
      history.receipt(op).ifPresent(r -> receipts.add(0, r));
    }
    return receipts;
  }

  private void end(UUID group, boolean done, String told) throws IOException {
    recovery.record(new JournalEntry.GroupEnded(clock.instant(), group, done, told));
  }
}
