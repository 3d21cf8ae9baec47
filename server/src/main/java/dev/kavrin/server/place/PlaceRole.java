package dev.kavrin.server.place;

/** What a place is for. */
public enum PlaceRole {
  WORK,
  RECOVERY,
  PROGRAM,
  SETTINGS
}
