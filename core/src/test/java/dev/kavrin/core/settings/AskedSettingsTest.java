package dev.kavrin.core.settings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** What a person found is judged as if a file had said it. */
class AskedSettingsTest {
  private static final Map<Meaning, String> KEYS =
      Map.of(
          Meaning.ENABLED, "on",
          Meaning.INTERVAL, "seconds",
          Meaning.COUNT, "count",
          Meaning.KEEP_EARLIER, "earlier");

  @Property
  void itIsJudgedAsAFileThatSaysTheSame(
      @ForAll boolean on,
      @ForAll boolean earlier,
      @ForAll @IntRange(min = 1, max = 7200) int seconds,
      @ForAll @IntRange(max = 20) int count,
      @ForAll boolean wantedOn,
      @ForAll @IntRange(min = 1, max = 7200) int wantedSeconds,
      @ForAll @IntRange(min = 1, max = 20) int wantedCount)
      throws SettingsException {
    SettingsLink.Wanted wanted =
        new SettingsLink.Wanted(
            wantedOn, Duration.ofSeconds(wantedSeconds), wantedCount, null, null);
    SettingsAudit asked =
        SettingsAudit.of(
            new AskedSettings(
                new AskedSettings.Found(on, Duration.ofSeconds(seconds), count, null, earlier),
                Instant.EPOCH,
                wanted));
    String file =
        "on=%s\nseconds=%d\ncount=%d\nearlier=%s\n".formatted(on, seconds, count, earlier);
    SettingsAudit read =
        SettingsAudit.of(
            new SettingsLink(
                "/modeller.properties",
                SettingsKind.PROPERTIES,
                "",
                KEYS,
                SettingsLink.Unit.SECONDS,
                wanted),
            SettingsText.of(file.getBytes(StandardCharsets.UTF_8), SettingsKind.PROPERTIES, ""));
    assertThat(asked.writesEvery()).isEqualTo(read.writesEvery());
    assertThat(asked.isOff()).isEqualTo(read.isOff());
    assertThat(asked.lines())
        .usingRecursiveComparison()
        .ignoringFields("key", "found", "put")
        .isEqualTo(read.lines());
  }

  @Test
  void whatWasNotLookedUpIsNotJudged() {
    SettingsAudit audit =
        SettingsAudit.of(
            new AskedSettings(
                new AskedSettings.Found(null, Duration.ofMinutes(20), null, null, null),
                null,
                new SettingsLink.Wanted(true, Duration.ofMinutes(5), 3, null, null)));
    assertThat(audit.lines())
        .singleElement()
        .satisfies(
            line -> {
              assertThat(line.standing()).isEqualTo(SettingsAudit.Standing.DIFFERS);
              assertThat(line.words())
                  .isEqualTo("time between its autosaves is 20 min, wanted: at most 5 min");
            });
    assertThat(audit.writesEvery()).isEqualTo(Duration.ofMinutes(20));
  }

  @Test
  void nothingSaidIsRefused() {
    assertThatThrownBy(
            () ->
                new AskedSettings(
                    new AskedSettings.Found(null, null, null, null, null), null, null))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("Nothing was said");
  }
}
