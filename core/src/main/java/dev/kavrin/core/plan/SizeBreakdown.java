package dev.kavrin.core.plan;

import dev.kavrin.core.content.Reducer;
import dev.kavrin.core.content.archive.ZipReducer;
import dev.kavrin.core.content.gltf.GlbReducer;
import dev.kavrin.core.content.gltf.GltfReducer;
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
  private static final List<String> ATTACHED =
      List.of("*.{png,jpg,jpeg,tif,tiff,bmp,exr,hdr,tga,webp,wav,flac,mp3,ogg,mp4,mov,avi,pdf}");

  /** Common practice, no source: what programs call the past they pack into their files. */
  private static final List<String> PAST =
      List.of("**{undo,history,versions,previous,backup,backups}/**", "*{undo,history,.bak,.old}*");

  /**
   * @param ext ending of its name, lower case, without the dot
   * @return empty for kinds into which Kavrin does not look
   */
  public static Optional<SizeBreakdown> of(SeekableByteChannel in, String ext) throws IOException {
    return switch (ext) {
      case "glb" -> Optional.of(made(in, new GlbReducer().left(in), List.of()));
      case "gltf" -> Optional.of(made(in, new GltfReducer().left(in), List.of()));
      case "zip" ->
          Optional.of(
              made(
                  in,
                  new ZipReducer(ATTACHED, PAST).left(in),
                  new ZipReducer(PAST, List.of()).left(in)));
      default -> Optional.empty();
    };
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
