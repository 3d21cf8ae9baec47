package dev.kavrin.server.place;

/** What a place is for. */
public enum PlaceRole {
  WORK,
  RECOVERY,
  /** Where programs leave copies: temporary folders, caches, other drives. Only looked into. */
  PROGRAM,
  SETTINGS
}
