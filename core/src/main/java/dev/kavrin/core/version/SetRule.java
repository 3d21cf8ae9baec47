package dev.kavrin.core.version;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.naming.PathPattern;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * Which files of a run belong together: a set-up, and for each step a restart file, a result, or
 * both. Holds for every folder in which a set-up lies.
 *
 * @param members one set-up, at least one other
 */
public record SetRule(List<Member> members) {
  /** What a file is for. */
  public enum Role {
    SETUP("set-up"),
    RESTART("restart file"),
    RESULT("result");

    private final String words;

    Role(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /**
   * How the files of one role are called.
   *
   * @param folder relative to the set-up's, empty if they lie beside it; may have holes, such as
   *     one folder for each process or step
   * @param pattern a name without {@code {step}} is one file that is written again and again; the
   *     step is then read from inside it. One with {@code {n}} or {@code {any}} is of several files
   *     in each step, such as one of each process
   */
  public record Member(Role role, String folder, NamePattern pattern) {
    public Member {
      Path below = Path.of(folder);
      if (below.isAbsolute() || below.normalize().startsWith("..")) {
        throw new IllegalArgumentException(
            "The folder of the " + role.words() + " must lie below the set-up's, got " + folder);
      }
      if (role == Role.SETUP && !folder.isEmpty()) {
        throw new IllegalArgumentException("The set-up itself says where its run lies");
      }
      PathPattern.of(folder);
    }

    @JsonIgnore
    public PathPattern folders() {
      return PathPattern.of(folder);
    }

    private boolean isSplit() {
      return pattern.tellsParts() || folders().tellsParts();
    }

    private Optional<NameFields> parse(String below, String name) {
      return folders().parse(below).flatMap(f -> pattern.parse(name).map(f::or));
    }
  }

  /**
   * A file's place in a run.
   *
   * @param step null if only the file itself can tell
   * @param part which of several files of the role in a step; empty where there is one
   */
  public record Claim(Role role, @Nullable Long step, String part) {}

  public SetRule {
    members = List.copyOf(members);
    if (members.stream().filter(m -> m.role() == Role.SETUP).count() != 1 || members.size() < 2) {
      throw new IllegalArgumentException(
          "A run needs one set-up and a restart file or a result beside it");
    }
    if (members.stream().map(Member::role).distinct().count() < members.size()) {
      throw new IllegalArgumentException("A role may have one name pattern only");
    }
  }

  /** The member with a role, if the rule has one. */
  public Optional<Member> member(Role role) {
    return members.stream().filter(m -> m.role() == role).findFirst();
  }

  /** True if a step has several files of a role, of which none may be missing. */
  public boolean isSplit(Role role) {
    return member(role).filter(Member::isSplit).isPresent();
  }

  /** Folders to look into, relative to the set-up's. */
  @JsonIgnore
  public List<PathPattern> folders() {
    return members.stream().map(Member::folder).distinct().map(PathPattern::of).toList();
  }

  /** True if a file of that name begins a run. */
  public boolean isSetup(String name) {
    return setup(name).isPresent();
  }

  private Optional<NameFields> setup(String name) {
    return member(Role.SETUP).flatMap(m -> m.pattern().parse(name));
  }

  /** True if a file of that name is a restart file or a result of some run. */
  public boolean isStep(String name) {
    return !isSetup(name)
        && members.stream()
            .filter(m -> m.role() != Role.SETUP)
            .anyMatch(m -> m.pattern().parse(name).isPresent());
  }

  /**
   * What a file is in the run of a set-up.
   *
   * @param setup file name of the set-up
   * @param folder where the file lies, relative to the set-up's folder
   * @param name file name
   */
  public Optional<Claim> claim(String setup, String folder, String name) {
    if (name.equals(setup) || isSetup(name)) {
      return Optional.empty();
    }
    String stem = setup(setup).map(NameFields::stem).orElse("");
    for (Member member : members) {
      Optional<NameFields> fields =
          member.role() != Role.SETUP ? member.parse(folder, name) : Optional.empty();
      boolean same =
          fields
              .filter(f -> f.stem().isEmpty() || stem.isEmpty() || f.stem().equals(stem))
              .isPresent();
      if (same) {
        NameFields.Counter step = fields.get().step();
        return Optional.of(
            new Claim(member.role(), step == null ? null : step.value(), fields.get().part()));
      }
    }
    return Optional.empty();
  }

  /** The role of a file by its name alone; empty for a set-up and for strangers. */
  public Optional<Role> roleOf(String name) {
    return isSetup(name)
        ? Optional.empty()
        : members.stream()
            .filter(m -> m.role() != Role.SETUP && m.pattern().parse(name).isPresent())
            .map(Member::role)
            .findFirst();
  }
}
