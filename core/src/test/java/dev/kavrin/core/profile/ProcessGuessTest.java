package dev.kavrin.core.profile;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Which of the processes seen is the program that wrote the document. */
class ProcessGuessTest {
  private static final Instant START = Instant.parse("2031-03-03T09:00:00Z");
  private static final Path DOCUMENT = Path.of("/srv/tarnwick/station/summit-station.glb");
  private static final List<String> MODELLER =
      List.of("java", "-cp", "/opt/tarn/modeller.jar", "tarn.Modeller", DOCUMENT.toString());

  private static Ran throughout(List<String> arguments) {
    return new Ran(arguments, Set.of(), START.plusSeconds(1), START.plusSeconds(50));
  }

  private static String found(Ran... processes) {
    Seen seen =
        new Seen(
            DOCUMENT.getParent(),
            START,
            START.plusSeconds(60),
            Map.of(),
            List.of(new FileEvent(START.plusSeconds(20), DOCUMENT, FileEvent.Kind.WRITTEN, null)),
            List.of(processes),
            false);
    return new ProcessGuess(seen, DOCUMENT, Set.of())
        .find()
        .map(ProcessGuess.Found::words)
        .orElse("");
  }

  @Test
  void whatNamesTheFileIsTheProgram() {
    assertThat(found(throughout(List.of("/usr/bin/indexer", "-q")), throughout(MODELLER)))
        .isEqualTo("tarn.Modeller");
  }

  /** The same words in another window or for another person are the same program's, too. */
  @Test
  void aSecondInstanceWithAnotherDocumentDoesNotHideIt() {
    List<String> other =
        List.of("java", "-cp", "/opt/tarn/modeller.jar", "tarn.Modeller", "/home/wim/pulley.glb");
    assertThat(
            found(
                throughout(List.of("/usr/bin/indexer", "-q")),
                new Ran(other, Set.of(), null, null),
                throughout(MODELLER)))
        .isEqualTo("tarn.Modeller");
    assertThat(
            found(
                throughout(List.of("/opt/draft/bin/draft", DOCUMENT.toString())),
                new Ran(List.of("/opt/draft/bin/draft", "/x.dxf"), Set.of(), null, null)))
        .isEqualTo("draft");
  }

  /** Another program whose command line holds the words does: they would not tell it apart. */
  @Test
  void wordsThatAnotherProgramHoldsAreNotEnough() {
    assertThat(
            found(
                throughout(List.of("/opt/draft/bin/draft", DOCUMENT.toString())),
                new Ran(List.of("/usr/bin/backdraft", "draft"), Set.of(), null, null)))
        .isEqualTo("/opt/draft/bin/draft");
  }

  @Test
  void kavrinsOwnHelpersAreNobodysProgram() {
    assertThat(
            found(
                throughout(List.of("java", "-cp", "lib/*", "dev.kavrin.core.worker.ReaderWorker"))))
        .isEmpty();
  }
}
