package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.Reducer;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.Optional;

/** glTF 2.0, as text and packed (ISO/IEC 12113). */
public final class GltfFormat implements Format {
  @Override
  public ContentReader reader() {
    return new GlbReader();
  }

  @Override
  public Optional<String> ending() {
    return Optional.of("glb");
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new GltfParts());
  }

  @Override
  public Optional<LinkWriter> links() {
    return Optional.of(new GltfLinks());
  }

  @Override
  public Optional<Reducer> reducer(String ext, boolean pictures, List<String> entries) {
    return pictures ? Optional.of(ofPictures(ext)) : Optional.empty();
  }

  private static Reducer ofPictures(String ext) {
    return ext.equals("glb") ? new GlbReducer() : new GltfReducer();
  }

  @Override
  public Optional<Attachments> attachments(SeekableByteChannel in, String ext) throws IOException {
    return Optional.of(new Attachments(ofPictures(ext).left(in), List.of()));
  }

  /** Points, normals and corners; other numbers may well be zero throughout. */
  @Override
  public List<Dense> dense(SeekableByteChannel in) throws IOException {
    try (GlbFile file = GlbFile.open(in)) {
      return file.isBinary() ? ShapeBytes.of(file) : List.of();
    }
  }
}
