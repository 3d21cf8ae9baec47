package dev.kavrin.core.settings;

/** An open block of named or numbered members while a nested text is read. */
class Level {
  private static final int NAMED = -1;

  private final String path;
  private String name;
  private int next;

  private Level(String path, int next) {
    this.path = path;
    this.next = next;
  }

  /** The block a member opens; the outermost has no parent. */
  Level(Level parent, boolean numbered) {
    this(parent == null ? "" : parent.child(), numbered ? 0 : NAMED);
  }

  final String path() {
    return path;
  }

  final boolean isNamed() {
    return next == NAMED;
  }

  final boolean wantsName() {
    return isNamed() && name == null;
  }

  final void name(String own) {
    name = own;
  }

  /** Path of the next member, which is then over. */
  final String child() {
    String own = isNamed() ? name : String.valueOf(next++);
    name = null;
    return path.isEmpty() ? own : path + "/" + own;
  }

  /** That of a value in a block, or of the whole text. */
  static String member(Level level) {
    return level == null ? "" : level.child();
  }
}
