package dev.kavrin.server.people;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** What people may who do not ask themselves; while the records are away, as it was last known. */
@Component
public class RightsByName {
  private static final Logger LOG = LoggerFactory.getLogger(RightsByName.class);

  private final Doorkeeper doorkeeper;
  private final Map<String, Rights> known = new ConcurrentHashMap<>();

  RightsByName(Doorkeeper doorkeeper) {
    this.doorkeeper = doorkeeper;
  }

  /** Nothing for somebody who was never let in, or is not any more. */
  public Rights of(String name) {
    try {
      Rights now = doorkeeper.rights(name);
      known.put(name, now);
      return now;
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("What {} may is told from memory: {}", name, away.getMessage());
      return known.getOrDefault(name, Rights.NONE);
    }
  }
}
