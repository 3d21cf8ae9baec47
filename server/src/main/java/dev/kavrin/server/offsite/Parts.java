package dev.kavrin.server.offsite;

import dev.kavrin.core.offsite.Arrival;
import dev.kavrin.core.offsite.Body;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.io.input.BoundedInputStream;
import software.amazon.awssdk.core.sync.RequestBody;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.CompletedPart;
import software.amazon.awssdk.services.s3.model.MultipartUpload;
import software.amazon.awssdk.services.s3.model.Part;

/**
 * Sends a large object in parts. What the service has of it already, of this run or of one before a
 * stop, is not sent again: a part of the same length and MD5 is taken as it is.
 */
final class Parts {
  static final long WHOLE_UP_TO = 64 << 20;
  private static final long PART = 16 << 20;

  /** The protocol allows ten thousand. */
  private static final long MOST_PARTS = 9_000;

  private final S3Client client;
  private final String bucket;

  Parts(S3Client client, String bucket) {
    this.client = client;
    this.bucket = bucket;
  }

  /** The same for the same length, so that a later run finds its parts again. */
  private static long size(long length) {
    long least = (length + MOST_PARTS - 1) / MOST_PARTS;
    return Math.max(PART, (least + PART - 1) / PART * PART);
  }

  /** The name was free, as its caller looked. */
  Arrival send(String key, Body body, Map<String, String> said) {
    String upload =
        begun(key)
            .orElseGet(
                () ->
                    client
                        .createMultipartUpload(r -> r.bucket(bucket).key(key).metadata(said))
                        .uploadId());
    Map<Integer, Part> there = there(key, upload);
    long size = size(body.length());
    List<CompletedPart> all = new ArrayList<>();
    for (int number = 1; (number - 1) * size < body.length(); number++) {
      long from = (number - 1) * size;
      long length = Math.min(size, body.length() - from);
      String tag = isThere(there.get(number), body, from, length);
      all.add(
          CompletedPart.builder()
              .partNumber(number)
              .eTag(tag == null ? send(key, upload, number, body, from, length) : tag)
              .build());
    }
    client.completeMultipartUpload(
        r -> r.bucket(bucket).key(key).uploadId(upload).multipartUpload(m -> m.parts(all)));
    return Arrival.UNPROVEN;
  }

  private Optional<String> begun(String key) {
    return client.listMultipartUploadsPaginator(r -> r.bucket(bucket).prefix(key)).stream()
        .flatMap(page -> page.uploads().stream())
        .filter(u -> u.key().equals(key))
        .max(Comparator.comparing(MultipartUpload::initiated))
        .map(MultipartUpload::uploadId);
  }

  private Map<Integer, Part> there(String key, String upload) {
    Map<Integer, Part> there = new HashMap<>();
    client.listPartsPaginator(r -> r.bucket(bucket).key(key).uploadId(upload)).stream()
        .flatMap(page -> page.parts().stream())
        .forEach(p -> there.put(p.partNumber(), p));
    return there;
  }

  private String send(String key, String upload, int number, Body body, long from, long length) {
    try (Reopened bytes = new Reopened(() -> opened(body, from, length))) {
      return client
          .uploadPart(
              r ->
                  r.bucket(bucket)
                      .key(key)
                      .uploadId(upload)
                      .partNumber(number)
                      .contentLength(length),
              RequestBody.fromContentProvider(bytes, length, Bucket.KIND))
          .eTag();
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }

  /** What the service calls it, if it has these bytes; else null. */
  private static String isThere(Part part, Body body, long from, long length) {
    if (part == null || part.size() != length) {
      return null;
    }
    String tag = part.eTag().replace("\"", "");
    return tag.equals(md5(body, from, length)) ? part.eTag() : null;
  }

  private static String md5(Body body, long from, long length) {
    try (Md5Input in = new Md5Input(opened(body, from, length))) {
      in.transferTo(OutputStream.nullOutputStream());
      return in.hex();
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }

  private static InputStream opened(Body body, long from, long length) throws IOException {
    return BoundedInputStream.builder().setInputStream(body.from(from)).setMaxCount(length).get();
  }
}
