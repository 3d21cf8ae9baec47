package dev.kavrin.server.people;

import java.util.UUID;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;

/** What the person whose call is being answered may see. */
@Component
public class Access {
  /** True if lists for this person name the project. */
  public boolean sees(UUID project) {
    return current().may(project, Role.LOOK);
  }

  /** True if the person sees whatever there is. */
  public boolean seesEverything() {
    return current().mayEverywhere(Role.LOOK);
  }

  /** The same for later, when the call is answered and its person is not at hand any more. */
  public Rights current() {
    Authentication who = SecurityContextHolder.getContext().getAuthentication();
    return who != null && who.getDetails() instanceof Rights rights ? rights : Rights.NONE;
  }
}
