package dev.kavrin.core.offsite;

import dev.kavrin.core.journal.Journal;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.NoSuchFileException;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import tools.jackson.core.JacksonException;

/**
 * The object that makes a bucket or folder a store. Without it the store counts as away: an empty
 * mount point or another bucket of the same name takes nothing.
 *
 * @param seal how the objects are encrypted; null if they are not
 */
public record StoreMark(UUID id, Instant made, @Nullable Seal seal) {
  static final String NAME = "store.json";
  private static final int MOST = 10_000;

  /**
   * Empty if there is none, or something else of that name. It is fetched without being looked for
   * first: a service says why it refuses only where an answer has a body.
   */
  public static Optional<StoreMark> read(Store store) throws IOException {
    try (InputStream in = store.get(NAME)) {
      return Optional.of(Journal.MAPPER.readValue(in.readNBytes(MOST), StoreMark.class));
    } catch (NoSuchFileException none) {
      return Optional.empty();
    } catch (JacksonException notOurs) {
      return Optional.empty();
    }
  }

  /**
   * The mark that is there, else a new one.
   *
   * @param passphrase with which a new store is encrypted; null for one that is not
   * @throws IOException something else stands under the mark's name, and was left alone
   */
  public static StoreMark ensure(Store store, Instant now, @Nullable String passphrase)
      throws IOException {
    Optional<StoreMark> there = read(store);
    if (there.isPresent()) {
      return there.get();
    }
    StoreMark made =
        new StoreMark(UUID.randomUUID(), now, passphrase == null ? null : Seal.of(passphrase));
    Body body = Body.of(Journal.MAPPER.writeValueAsString(made).getBytes(StandardCharsets.UTF_8));
    if (store.put(NAME, body) != Arrival.NAME_TAKEN) {
      return made;
    }
    return read(store)
        .orElseThrow(
            () ->
                new IOException(
                    "There is a '"
                        + NAME
                        + "' of another kind. It was left alone; choose another beginning of the"
                        + " names, or move it away"));
  }
}
