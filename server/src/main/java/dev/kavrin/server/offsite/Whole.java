package dev.kavrin.server.offsite;

import dev.kavrin.core.offsite.Arrival;
import dev.kavrin.core.offsite.Body;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import software.amazon.awssdk.core.sync.RequestBody;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.PutObjectRequest;
import software.amazon.awssdk.services.s3.model.PutObjectResponse;
import software.amazon.awssdk.services.s3.model.S3Exception;

/**
 * Sends an object in one request, under the condition that its name is free (RFC 9110, 13.1.2).
 * Whether the service heeds that is seen by sending the first object twice. The entity tag that it
 * answers is by the protocol's custom the MD5 of what it took.
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

  Arrival send(String key, Body body, Map<String, String> said) {
    Arrival arrival = put(key, body, said);
    if (arrival != Arrival.NAME_TAKEN && conditions == Conditions.NOT_TRIED) {
      boolean heeded = put(key, body, said) == Arrival.NAME_TAKEN;
      conditions = heeded ? Conditions.HEEDED : Conditions.IGNORED;
    }
    return arrival;
  }

  private Arrival put(String key, Body body, Map<String, String> said) {
    AtomicReference<Md5Input> sent = new AtomicReference<>();
    try (Reopened bytes =
        new Reopened(
            () -> {
              sent.set(new Md5Input(body.from(0)));
              return sent.get();
            })) {
      PutObjectResponse answer =
          client.putObject(
              request(key, said),
              RequestBody.fromContentProvider(bytes, body.length(), Bucket.KIND));
      return isTagOf(answer.eTag(), sent.get()) ? Arrival.PROVEN : Arrival.UNPROVEN;
    } catch (S3Exception refused) {
      if (refused.statusCode() == UNKNOWN_HEADER && conditions == Conditions.NOT_TRIED) {
        conditions = Conditions.IGNORED;
        return put(key, body, said);
      }
      if (refused.statusCode() == TAKEN) {
        return Arrival.NAME_TAKEN;
      }
      throw refused;
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }

  /** A service that encrypts at rest with keys of its own, say, answers another tag. */
  private static boolean isTagOf(String tag, Md5Input sent) {
    return tag != null && tag.replace("\"", "").equals(sent.hex());
  }

  private PutObjectRequest request(String key, Map<String, String> said) {
    PutObjectRequest.Builder request =
        PutObjectRequest.builder().bucket(bucket).key(key).metadata(said);
    return (conditions == Conditions.IGNORED ? request : request.ifNoneMatch("*")).build();
  }
}
