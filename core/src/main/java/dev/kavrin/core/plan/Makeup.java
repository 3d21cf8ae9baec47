package dev.kavrin.core.plan;

import dev.kavrin.core.content.Lightener;
import dev.kavrin.core.content.archive.ZipLightener;
import dev.kavrin.core.content.gltf.GlbLightener;
import dev.kavrin.core.content.gltf.GltfLightener;
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
public record Makeup(long attachments, long history, long rest) {
  private static final List<String> ATTACHED =
      List.of("*.{png,jpg,jpeg,tif,tiff,bmp,exr,hdr,tga,webp,wav,flac,mp3,ogg,mp4,mov,avi,pdf}");

  /** Common practice, no source: what programs call the past they pack into their files. */
  private static final List<String> PAST =
      List.of("**{undo,history,versions,previous,backup,backups}/**", "*{undo,history,.bak,.old}*");

  /**
   * @param ext ending of its name, lower case, without the dot
   * @return empty for kinds into which Kavrin does not look
   */
  public static Optional<Makeup> of(SeekableByteChannel in, String ext) throws IOException {
    return switch (ext) {
      case "glb" -> Optional.of(made(in, new GlbLightener().left(in), List.of()));
      case "gltf" -> Optional.of(made(in, new GltfLightener().left(in), List.of()));
      case "zip" ->
          Optional.of(
              made(
                  in,
                  new ZipLightener(ATTACHED, PAST).left(in),
                  new ZipLightener(PAST, List.of()).left(in)));
      default -> Optional.empty();
    };
  }

  private static Makeup made(
      SeekableByteChannel in, List<Lightener.Left> attachments, List<Lightener.Left> history)
      throws IOException {
    long attached = bytes(attachments);
    long past = bytes(history);
    return new Makeup(attached, past, Math.max(0, in.size() - attached - past));
  }

  private static long bytes(List<Lightener.Left> left) {
    return left.stream().mapToLong(Lightener.Left::bytes).sum();
  }
}
