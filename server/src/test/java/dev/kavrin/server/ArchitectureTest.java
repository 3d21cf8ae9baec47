package dev.kavrin.server;

import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
import jakarta.persistence.Entity;
import java.io.IOException;
import java.io.InputStream;
import java.util.Properties;
import org.springframework.scheduling.annotation.Scheduled;

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

  /** Timed tasks that wait for threads of each other delay what a person has to be told. */
  @ArchTest
  static void eachTimedTaskHasAThread(JavaClasses classes) throws IOException {
    Properties settings = new Properties();
    try (InputStream in = ArchitectureTest.class.getResourceAsStream("/application.properties")) {
      settings.load(in);
    }
    long tasks =
        classes.stream()
            .flatMap(c -> c.getMethods().stream())
            .filter(m -> m.isAnnotatedWith(Scheduled.class))
            .count();
    assertThat(tasks).isPositive();
    assertThat(Integer.parseInt(settings.getProperty("spring.task.scheduling.pool.size")))
        .isGreaterThanOrEqualTo((int) tasks);
  }
}
