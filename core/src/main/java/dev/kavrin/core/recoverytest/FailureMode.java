package dev.kavrin.core.recoverytest;

/** A way to fail. */
public enum FailureMode {
  IDLE("killed while nobody saved"),
  MID_SAVE("killed in the middle of a save"),
  MID_AUTOSAVE("killed in the middle of a copy of its own"),
  DISK_FULL("its drive was full in the middle of a save"),
  DAMAGED("the end of the file was zeroed"),
  DRIVE_GONE("the drive with the work is gone");

  private final String words;

  FailureMode(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** True if what the program wrote beside the file is lost with it. */
  boolean losesLeftovers() {
    return this == DRIVE_GONE;
  }

  /** True if the file itself is whole afterwards. */
  boolean leavesFile() {
    return this == IDLE || this == MID_AUTOSAVE;
  }
}
