package dev.kavrin.server.offsite;

import dev.kavrin.core.offsite.Body;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Map;
import software.amazon.awssdk.core.sync.RequestBody;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.PutObjectRequest;
import software.amazon.awssdk.services.s3.model.S3Exception;

/**
 * Sends an object in one request, under the condition that its name is free (RFC 9110, 13.1.2).
 * Whether the service heeds that is seen by sending the first object twice.
 */
final class Whole {
  private static final int TAKEN = 412;
  private static final int UNKNOWN_HEADER = 501;

  private enum Conditions {
    NOT_TRIED,
    HEEDED,
    IGNORED
  }

  private final S3Client client;
  private final String bucket;
  private volatile Conditions conditions = Conditions.NOT_TRIED;

  Whole(S3Client client, String bucket) {
    this.client = client;
    this.bucket = bucket;
  }

  /** True if nobody need ask whether a name is free: the service does when an object is sent. */
  boolean asksForNames() {
    return conditions == Conditions.HEEDED;
  }

  /** False if the service says that the name is taken. */
  boolean send(String key, Body body, Map<String, String> said) {
    boolean sent = put(key, body, said);
    if (sent && conditions == Conditions.NOT_TRIED) {
      conditions = put(key, body, said) ? Conditions.IGNORED : Conditions.HEEDED;
    }
    return sent;
  }

  private boolean put(String key, Body body, Map<String, String> said) {
    try (Reopened bytes = new Reopened(() -> body.from(0))) {
      client.putObject(
          request(key, said), RequestBody.fromContentProvider(bytes, body.length(), Bucket.KIND));
      return true;
    } catch (S3Exception refused) {
      if (refused.statusCode() == UNKNOWN_HEADER && conditions == Conditions.NOT_TRIED) {
        conditions = Conditions.IGNORED;
        return put(key, body, said);
      }
      if (refused.statusCode() == TAKEN) {
        return false;
      }
      throw refused;
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }

  private PutObjectRequest request(String key, Map<String, String> said) {
    PutObjectRequest.Builder request =
        PutObjectRequest.builder().bucket(bucket).key(key).metadata(said);
    return (conditions == Conditions.IGNORED ? request : request.ifNoneMatch("*")).build();
  }
}
