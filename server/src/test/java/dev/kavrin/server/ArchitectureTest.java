package dev.kavrin.server;

import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
import jakarta.persistence.Entity;

/** By feature, without cycles; entities never leave their feature. */
@AnalyzeClasses(
    packages = "dev.kavrin.server",
    importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest
  static final ArchRule noCyclesBetweenFeatures =
      slices().matching("dev.kavrin.server.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule entitiesStayInTheirFeature =
      ArchRuleDefinition.classes()
          .that()
          .areAnnotatedWith(Entity.class)
          .should()
          .bePackagePrivate();
}
