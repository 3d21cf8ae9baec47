package dev.kavrin.server.folder;

/** What a place is for. */
public enum FolderRole {
  WORK,
  RECOVERY,
  /** Where programs leave copies: temporary folders, caches, other drives. Only looked into. */
  PROGRAM,
  SETTINGS
}
