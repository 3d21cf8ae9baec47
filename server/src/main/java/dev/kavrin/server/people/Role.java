package dev.kavrin.server.people;

/** What a person may with a project; each role has what those before it have. */
public enum Role {
  /** See documents, versions, comparisons and what would be lost. */
  LOOK,
  /** Back up now, restore, lay out, bring back parts, answer what Kavrin asks. */
  RESTORE,
  /** Change plans, folders, programs and stores, and clean up. */
  PLAN,
  /** Let people in and take rights away. */
  ADMINISTER;

  boolean covers(Role wanted) {
    return compareTo(wanted) >= 0;
  }
}
