package dev.kavrin.core.content.archive;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.Reducer;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** ZIP archives. */
public final class ZipFormat implements Format {
  private static final List<String> ATTACHED =
      List.of("*.{png,jpg,jpeg,tif,tiff,bmp,exr,hdr,tga,webp,wav,flac,mp3,ogg,mp4,mov,avi,pdf}");

  /** Common practice, no source: what programs call the past they pack into their files. */
  private static final List<String> PAST =
      List.of("**{undo,history,versions,previous,backup,backups}/**", "*{undo,history,.bak,.old}*");

  private final ContentReader reader;

  /**
   * @param within the reader for an entry of that name, if its content is to be read too
   */
  public ZipFormat(Function<String, Optional<ContentReader>> within) {
    this.reader = new ZipReader(within);
  }

  @Override
  public ContentReader reader() {
    return reader;
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new ZipParts());
  }

  @Override
  public Optional<Reducer> reducer(String ext, boolean pictures, List<String> entries) {
    Reducer reducer = new ZipReducer(entries);
    return reducer.takes(ext) ? Optional.of(reducer) : Optional.empty();
  }

  @Override
  public Optional<Attachments> attachments(SeekableByteChannel in, String ext) throws IOException {
    return Optional.of(
        new Attachments(
            new ZipReducer(ATTACHED, PAST).left(in), new ZipReducer(PAST, List.of()).left(in)));
  }

  @Override
  public boolean packs() {
    return true;
  }
}
