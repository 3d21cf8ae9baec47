package dev.kavrin.core.chunk;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.nio.charset.StandardCharsets;

/** Computes a {@link ContentId} over bytes as they stream by. Not for use by two threads. */
public final class ContentHash {
  private final HashStream128 stream = Hashing.xxh3_128().hashStream();
  private long length;

  public ContentHash add(byte[] bytes, int offset, int count) {
    stream.putBytes(bytes, offset, count);
    length += count;
    return this;
  }

  public ContentHash add(byte[] bytes) {
    return add(bytes, 0, bytes.length);
  }

  public ContentId id() {
    HashValue128 value = stream.get();
    return new ContentId(length, value.getMostSignificantBits(), value.getLeastSignificantBits());
  }

  public static ContentId of(byte[] bytes) {
    return new ContentHash().add(bytes).id();
  }

  public static ContentId of(String text) {
    return of(text.getBytes(StandardCharsets.UTF_8));
  }
}
