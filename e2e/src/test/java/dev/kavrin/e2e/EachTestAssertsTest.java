package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaAccess;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaCodeUnit;
import com.tngtech.archunit.core.domain.JavaMethod;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** No test asserts nothing: from each, in whichever module, something that can fail is reached. */
class EachTestAssertsTest {
  private static final Path ROOT = Path.of("..");
  private static final Set<String> TESTS =
      Set.of(
          "org.junit.jupiter.api.Test",
          "org.junit.jupiter.params.ParameterizedTest",
          "org.junit.jupiter.api.RepeatedTest",
          "org.junit.jupiter.api.TestFactory",
          "net.jqwik.api.Property",
          "net.jqwik.api.Example");

  /** Packages and types whose methods fail where something is not as it should be. */
  private static final List<String> ASSERTING =
      List.of(
          "org.assertj.core.api.",
          "com.microsoft.playwright.assertions.",
          "com.tngtech.archunit.lang.ArchRule",
          "org.awaitility.core.ConditionFactory");

  @Test
  void inEveryModule() throws Exception {
    JavaClasses compiled = new ClassFileImporter().importPaths(compiledTests());
    List<JavaMethod> tests =
        compiled.stream().flatMap(c -> c.getMethods().stream()).filter(this::isTest).toList();
    assertThat(tests).hasSizeGreaterThan(500);
    assertThat(tests.stream().filter(t -> !asserts(t)).map(JavaMethod::getFullName)).isEmpty();
  }

  @Test
  void whoAssertsNothingIsFound() {
    JavaClass own = new ClassFileImporter().importClass(Idle.class);
    assertThat(asserts(own.getMethod("runs"))).isFalse();
    assertThat(asserts(own.getMethod("checksByAnother"))).isTrue();
    assertThat(asserts(own.getMethod("checksLater"))).isTrue();
  }

  private static List<Path> compiledTests() throws Exception {
    try (Stream<Path> modules = Files.list(ROOT)) {
      return modules.map(m -> m.resolve("target/test-classes")).filter(Files::isDirectory).toList();
    }
  }

  private boolean isTest(JavaMethod method) {
    return method.getAnnotations().stream()
        .anyMatch(a -> TESTS.contains(a.getRawType().getFullName()));
  }

  private static boolean asserts(JavaMethod test) {
    boolean property = test.getRawReturnType().isEquivalentTo(boolean.class);
    Deque<JavaCodeUnit> open = new ArrayDeque<>(List.of(test));
    Set<JavaCodeUnit> seen = new HashSet<>();
    while (!property && !open.isEmpty()) {
      JavaCodeUnit unit = open.pop();
      if (!seen.add(unit)) {
        continue;
      }
      List<JavaAccess<?>> used = new ArrayList<>(unit.getCallsFromSelf());
      used.addAll(unit.getMethodReferencesFromSelf());
      for (JavaAccess<?> access : used) {
        String owner = access.getTargetOwner().getFullName();
        if (ASSERTING.stream().anyMatch(owner::startsWith)) {
          return true;
        }
        access
            .getTarget()
            .resolveMember()
            .filter(JavaCodeUnit.class::isInstance)
            .map(JavaCodeUnit.class::cast)
            .ifPresent(open::push);
      }
    }
    return property;
  }

  /** What the search is tried on. */
  private static final class Idle {
    void runs() {
      List.of(1).forEach(String::valueOf);
    }

    void checksByAnother() {
      check();
    }

    void checksLater() {
      List.of(1).forEach(n -> check());
    }

    private static void check() {
      assertThat(ROOT).isNotNull();
    }
  }
}
