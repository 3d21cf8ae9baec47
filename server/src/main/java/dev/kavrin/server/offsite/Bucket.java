package dev.kavrin.server.offsite;

import dev.kavrin.core.offsite.Arrival;
import dev.kavrin.core.offsite.Body;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.offsite.StoredObject;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.NoSuchFileException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import software.amazon.awssdk.core.exception.SdkException;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.CommonPrefix;
import software.amazon.awssdk.services.s3.model.HeadObjectResponse;
import software.amazon.awssdk.services.s3.model.ListObjectsV2Response;
import software.amazon.awssdk.services.s3.model.S3Exception;

/** A bucket, or what begins alike in it. */
final class Bucket implements Store {
  static final String SHA256 = "sha256";
  static final String KIND = "application/octet-stream";

  /** Each is waited for to travel there and back; more would only queue up on a line of its own. */
  private static final int AT_ONCE = 8;

  private static final Set<String> LOCKED =
      Set.of("AccessDenied", "ObjectLocked", "InvalidRequest", "MethodNotAllowed");

  private final S3Client client;
  private final String bucket;
  private final String begin;
  private final Parts parts;
  private final Whole whole;

  /**
   * @param begin of all names, empty or with a slash at the end
   */
  Bucket(S3Client client, String bucket, String begin) {
    this.client = client;
    this.bucket = bucket;
    this.begin = begin;
    this.parts = new Parts(client, bucket);
    this.whole = new Whole(client, bucket);
  }

  /** What fails at the service, in words that say what a person can do. */
  private <T> T ask(String name, Supplier<T> asking) throws IOException {
    try {
      return asking.get();
    } catch (S3Exception refused) {
      if (refused.statusCode() == 404 && !"NoSuchBucket".equals(code(refused))) {
        throw new NoSuchFileException(name);
      }
      throw new IOException(words(refused.statusCode(), code(refused)), refused);
    } catch (SdkException away) {
      throw new IOException("The service does not answer: " + away.getMessage(), away);
    }
  }

  /** What the service calls it; empty where an answer has no body to say it in. */
  private static String code(S3Exception refused) {
    String code = refused.awsErrorDetails() == null ? null : refused.awsErrorDetails().errorCode();
    return code == null ? "" : code;
  }

  private String words(int status, String code) {
    return switch (code) {
      case "NoSuchBucket" -> "There is no bucket '" + bucket + "'";
      case "RequestTimeTooSkewed" ->
          "The service says that this machine's clock is wrong. Set it, then copies go on";
      case "ExpiredToken", "InvalidAccessKeyId", "SignatureDoesNotMatch" ->
          "The service does not take this key any more (" + code + ")";
      case "AccessDenied" -> "The key may not do that in '" + bucket + "'";
      case "" ->
          status == 403
              ? "The service does not take this key for '" + bucket + "'"
              : "The service answered " + status;
      default -> "The service answered " + status + " " + code;
    };
  }

  @Override
  public List<StoredObject> list(String from) throws IOException {
    return ask(
        from,
        () ->
            client.listObjectsV2Paginator(r -> r.bucket(bucket).prefix(begin + from)).stream()
                .flatMap(page -> page.contents().stream())
                .map(
                    o ->
                        new StoredObject(
                            o.key().substring(begin.length()), o.size(), o.lastModified(), null))
                .toList());
  }

  @Override
  public List<String> folders(String from) throws IOException {
    return ask(
        from,
        () -> {
          List<String> found = new ArrayList<>();
          for (ListObjectsV2Response page :
              client.listObjectsV2Paginator(
                  r -> r.bucket(bucket).prefix(begin + from).delimiter("/"))) {
            for (CommonPrefix prefix : page.commonPrefixes()) {
              String name = prefix.prefix().substring((begin + from).length());
              found.add(name.substring(0, name.length() - 1));
            }
          }
          return found;
        });
  }

  @Override
  public Optional<StoredObject> find(String name) throws IOException {
    try {
      HeadObjectResponse head =
          ask(name, () -> client.headObject(r -> r.bucket(bucket).key(begin + name)));
      return Optional.of(
          new StoredObject(
              name, head.contentLength(), head.lastModified(), head.metadata().get(SHA256)));
    } catch (NoSuchFileException none) {
      return Optional.empty();
    }
  }

  @Override
  public Arrival put(String name, Body body) throws IOException {
    Map<String, String> said = Map.of(SHA256, body.sha256());
    boolean small = body.length() <= Parts.WHOLE_UP_TO;
    boolean asked = !(small && whole.asksForNames());
    if (asked && find(name).isPresent()) {
      return Arrival.NAME_TAKEN;
    }
    return ask(
        name,
        () -> small ? whole.send(begin + name, body, said) : parts.send(begin + name, body, said));
  }

  @Override
  public InputStream get(String name) throws IOException {
    return ask(name, () -> client.getObject(r -> r.bucket(bucket).key(begin + name)));
  }

  @Override
  public void delete(String name) throws IOException {
    try {
      client.deleteObject(r -> r.bucket(bucket).key(begin + name));
    } catch (S3Exception no) {
      if (LOCKED.contains(code(no))) {
        throw new RefusedException("The store keeps it: " + no.awsErrorDetails().errorMessage());
      }
      ask(
          name,
          () -> {
            throw no;
          });
    } catch (SdkException away) {
      throw new IOException("The service does not answer: " + away.getMessage(), away);
    }
  }

  @Override
  public int atOnce() {
    return AT_ONCE;
  }

  @Override
  public void close() {
    client.close();
  }
}
