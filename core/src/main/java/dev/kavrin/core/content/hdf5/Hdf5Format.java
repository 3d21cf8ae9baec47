package dev.kavrin.core.content.hdf5;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** HDF5. */
public final class Hdf5Format implements Format {
  @Override
  public ContentReader reader() {
    return new Hdf5Reader();
  }

  @Override
  public Optional<String> ending() {
    return Optional.of("h5");
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new Hdf5Parts());
  }
}
