package dev.kavrin.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaMethodCall;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import java.nio.file.Files;
import java.util.Set;

/** The floors of the house: arrows go only downward, and one class moves or deletes files. */
@AnalyzeClasses(packages = "dev.kavrin.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  private static final Set<String> CHANGING =
      Set.of("unlink", "rename", "exchange", "link", "create", "removeFolder");

  @ArchTest
  static final ArchRule floors =
      layeredArchitecture()
          .consideringOnlyDependenciesInLayers()
          .layer("1")
          .definedBy("..units..", "..naming..", "..disk..", "..chunk..")
          .layer("2")
          .definedBy("..content..", "..settings..")
          .layer("3")
          .definedBy("..health..")
          .layer("4")
          .definedBy("..trail..", "..compare..")
          .layer("5")
          .definedBy("..keep..")
          .layer("6")
          .definedBy("..plan..", "..store..")
          .layer("7")
          .definedBy(
              "..restore..",
              "..relink..",
              "..exchange..",
              "..worker..",
              "..observe..",
              "..bundle..")
          .layer("8")
          .definedBy("..rehearse..")
          .whereLayer("8")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("7")
          .mayOnlyBeAccessedByLayers("8")
          .whereLayer("6")
          .mayOnlyBeAccessedByLayers("7", "8")
          .whereLayer("5")
          .mayOnlyBeAccessedByLayers("6", "7", "8")
          .whereLayer("4")
          .mayOnlyBeAccessedByLayers("5", "6", "7", "8")
          .whereLayer("3")
          .mayOnlyBeAccessedByLayers("4", "5", "6", "7", "8")
          .whereLayer("2")
          .mayOnlyBeAccessedByLayers("3", "4", "5", "6", "7", "8");

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
          .areNotAssignableTo(Publisher.class)
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
          .areNotAssignableTo(RealDisk.class)
          .should(
              new com.tngtech.archunit.lang.ArchCondition<>(
                  "not move, copy or delete through Files") {
                @Override
                public void check(
                    com.tngtech.archunit.core.domain.JavaClass item,
                    com.tngtech.archunit.lang.ConditionEvents events) {
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
                                      "writeString")
                                  .contains(c.getName()))
                      .forEach(
                          c ->
                              events.add(
                                  com.tngtech.archunit.lang.SimpleConditionEvent.violated(
                                      c, c.getDescription())));
                }
              });
}
