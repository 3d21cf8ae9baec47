package dev.kavrin.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaMethodCall;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import dev.kavrin.core.disk.Disk;
import java.nio.file.Files;
import java.util.List;
import java.util.Set;

/** The floors of the house: arrows go only downward, and one class moves or deletes files. */
@AnalyzeClasses(packages = "dev.kavrin.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  private static final String ROOT = "dev.kavrin.core.";

  private static final Set<String> CHANGING =
      Set.of(
          "unlink",
          "rename",
          "renameIfFree",
          "exchange",
          "link",
          "cloneTo",
          "create",
          "removeFolder");

  /** From the ground up; see docs/architecture.md. */
  private static final List<Set<String>> FLOORS =
      List.of(
          Set.of("units", "naming", "chunk", "host", "disk", "lane", "pack"),
          Set.of("content", "settings", "layout"),
          Set.of("health", "profile"),
          Set.of("version", "compare", "picture"),
          Set.of("keep"),
          Set.of("plan"),
          Set.of("journal"),
          Set.of("backup", "retention", "replica", "watch", "incident"),
          Set.of("export", "relink", "restore", "compact", "bundle", "offsite", "recoverytest"),
          Set.of("worker"));

  @ArchTest
  static final ArchRule everyPackageStandsOnAFloorAndLooksOnlyDown =
      classes()
          .should(
              new ArchCondition<>("stand on a floor and depend only on floors below or their own") {
                @Override
                public void check(JavaClass item, ConditionEvents events) {
                  int own = floor(item);
                  if (own < 0 && !item.getSimpleName().equals("package-info")) {
                    events.add(SimpleConditionEvent.violated(item, item + " is on no floor"));
                  }
                  item.getDirectDependenciesFromSelf().stream()
                      .filter(d -> d.getTargetClass().getPackageName().startsWith(ROOT))
                      .filter(d -> floor(d.getTargetClass()) > own)
                      .forEach(
                          d -> events.add(SimpleConditionEvent.violated(d, d.getDescription())));
                }
              });

  private static int floor(JavaClass item) {
    String name = (item.getPackageName() + ".").substring(ROOT.length()).split("\\.")[0];
    for (int i = 0; i < FLOORS.size(); i++) {
      if (FLOORS.get(i).contains(name)) {
        return i;
      }
    }
    return -1;
  }

  /** What is asked of a format is asked of the one list of formats. */
  @ArchTest
  static final ArchRule nothingAboutAFormatOutsideItsPackage =
      noClasses()
          .that()
          .resideOutsideOfPackage("..core.content..")
          .should()
          .dependOnClassesThat(
              new DescribedPredicate<>("read or write one format") {
                @Override
                public boolean test(JavaClass item) {
                  return item.getPackageName().startsWith(ROOT + "content.")
                      && item.getSimpleName()
                          .matches("(?!Shape).*(Reader|Parts|Links|Reducer|Format|Log)");
                }
              });

  @ArchTest
  static final ArchRule noCycles =
      slices().matching("dev.kavrin.core.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule plainJava =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "org.springframework..",
              "org.hibernate..",
              "jakarta.persistence..",
              "jakarta.servlet..");

  @ArchTest
  static final ArchRule onePublisher =
      noClasses()
          .that()
          .resideOutsideOfPackage("..core.disk..")
          .and()
          .areNotAssignableTo(Disk.class)
          .should()
          .callMethodWhere(
              new DescribedPredicate<JavaMethodCall>("a call of Disk that changes names") {
                @Override
                public boolean test(JavaMethodCall call) {
                  return call.getTargetOwner().isAssignableTo(Disk.class)
                      && CHANGING.contains(call.getName());
                }
              });

  @ArchTest
  static final ArchRule onlyTheRealDiskTouchesFiles =
      classes()
          .that()
          .resideOutsideOfPackage("..core.disk..")
          .should(
              new ArchCondition<>("not move, copy or delete through Files") {
                @Override
                public void check(JavaClass item, ConditionEvents events) {
                  item.getMethodCallsFromSelf().stream()
                      .filter(c -> c.getTargetOwner().isEquivalentTo(Files.class))
                      .filter(
                          c ->
                              Set.of(
                                      "move",
                                      "copy",
                                      "delete",
                                      "deleteIfExists",
                                      "write",
                                      "writeString",
                                      "newOutputStream",
                                      "newBufferedWriter",
                                      "newByteChannel",
                                      "createFile",
                                      "createTempFile",
                                      "createTempDirectory",
                                      "createDirectory",
                                      "createDirectories",
                                      "createLink",
                                      "createSymbolicLink")
                                  .contains(c.getName()))
                      .forEach(
                          c -> events.add(SimpleConditionEvent.violated(c, c.getDescription())));
                }
              });
}
