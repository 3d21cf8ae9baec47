package dev.kavrin.core.restore;

import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.restore.Restorer.Order;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/** Several restores as one operation: all are done or none, and one undo takes all back. */
public final class GroupRestore {
  private final Restorer restorer;

  public GroupRestore(Restorer restorer) {
    this.restorer = restorer;
  }

  /**
   * What is to be done.
   *
   * @param group chosen by the caller, new
   * @param what in words, for the record
   */
  public record GroupOrder(UUID group, UUID project, String what, List<Order> orders) {
    public GroupOrder {
      orders = List.copyOf(orders);
    }
  }

  /**
   * @return one receipt for each, in order
   * @throws ChangedMeanwhileException one is not what its plan saw; nothing was done
   * @throws dev.kavrin.core.backup.NoRoomException there is not room for all; nothing was done
   * @throws IOException one could not be put in place; all are as they were before
   */
  public List<Receipt> restore(GroupOrder order, String who) throws IOException {
    checkTargets(order);
    Operation.Group group = new Operation.Group(order.project(), who, order.what(), null);
    return restorer.restore(order.group(), order.orders(), group, who);
  }

  private static void checkTargets(GroupOrder group) throws IOException {
    Set<Path> targets = new HashSet<>();
    for (Order order : group.orders()) {
      if (!targets.add(order.plan().target())) {
        throw new IOException(order.plan().target() + " is named twice. Nothing was touched");
      }
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
    List<Receipt> newestFirst = new ArrayList<>(receipts);
    Collections.reverse(newestFirst);
    return restorer.undo(group, newestFirst, new Operation.Group(project, who, what, undoes), who);
  }
}
