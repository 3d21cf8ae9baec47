package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.plan.ProgramStall.Write;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A program's stall is read from how long it was seen writing. */
class ProgramStallTest {
  @Test
  void itIsTheMiddleOfWhatWasMeasured() {
    ProgramStall stall =
        ProgramStall.of(
                List.of(
                    new Write(400_000_000, 3000L),
                    new Write(400_000_000, 9000L),
                    new Write(400_000_000, 4000L)))
            .orElseThrow();
    assertThat(stall).isEqualTo(new ProgramStall(Duration.ofSeconds(4), 3));
  }

  /** Its name is old, its bytes are new: nothing tells when the writing began. */
  @Test
  void aFileWrittenOverInPlaceTellsNothing() {
    assertThat(ProgramStall.of(List.of(new Write(1000, 600_000L), new Write(1000, null))))
        .isEmpty();
    assertThat(ProgramStall.of(List.of(new Write(1000, 1_900L)))).isPresent();
  }
}
