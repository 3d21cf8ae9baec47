package dev.kavrin.core.plan;

import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.Reducer;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.Optional;

/**
 * What a file is made up of, as far as that can be told without knowing its program: each copy pays
 * for attachments and history too.
 *
 * @param attachments bytes of pictures, sound and such that are packed into it
 * @param history bytes of earlier states and undo steps that it carries along
 * @param rest the work itself
 */
public record SizeBreakdown(long attachments, long history, long rest) {
  /**
   * @param ext ending of its name, lower case, without the dot
   * @return empty for kinds into which Kavrin does not look
   */
  public static Optional<SizeBreakdown> of(SeekableByteChannel in, String ext) throws IOException {
    Optional<Format> format = Formats.ending(ext);
    Optional<Format.Attachments> heavy =
        format.isPresent() ? format.get().attachments(in, ext) : Optional.empty();
    return heavy.isPresent()
        ? Optional.of(made(in, heavy.get().attached(), heavy.get().history()))
        : Optional.empty();
  }

  private static SizeBreakdown made(
      SeekableByteChannel in, List<Reducer.Left> attachments, List<Reducer.Left> history)
      throws IOException {
    long attached = bytes(attachments);
    long past = bytes(history);
    return new SizeBreakdown(attached, past, Math.max(0, in.size() - attached - past));
  }

  private static long bytes(List<Reducer.Left> left) {
    return left.stream().mapToLong(Reducer.Left::bytes).sum();
  }
}
