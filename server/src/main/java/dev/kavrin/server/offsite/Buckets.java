package dev.kavrin.server.offsite;

import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.offsite.Stores;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.file.Files;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import java.time.Duration;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import software.amazon.awssdk.auth.credentials.AwsBasicCredentials;
import software.amazon.awssdk.auth.credentials.StaticCredentialsProvider;
import software.amazon.awssdk.core.checksums.RequestChecksumCalculation;
import software.amazon.awssdk.core.checksums.ResponseChecksumValidation;
import software.amazon.awssdk.http.urlconnection.UrlConnectionHttpClient;
import software.amazon.awssdk.regions.Region;
import software.amazon.awssdk.services.s3.S3Client;

/** Connects to buckets of any service that speaks the S3 protocol. */
public final class Buckets implements Stores {
  private static final Duration CONNECT = Duration.ofSeconds(5);
  private static final Duration ANSWER = Duration.ofSeconds(30);
  private static final String SOME_REGION = "us-east-1";

  private final KeyFiles keys;

  public Buckets(KeyFiles keys) {
    this.keys = keys;
  }

  @Override
  public Store open(StoreAddress address) throws IOException {
    if (address.service() == null || address.key() == null) {
      throw new IOException("A bucket needs the address of its service and a key file");
    }
    URI service = URI.create(address.service());
    KeyFiles.Key key = keys.key(address.key());
    UrlConnectionHttpClient.Builder http =
        UrlConnectionHttpClient.builder().connectionTimeout(CONNECT).socketTimeout(ANSWER);
    if (address.authority() != null) {
      TrustManager[] managers = vouching(address.authority());
      http.tlsTrustManagersProvider(() -> managers);
    }
    S3Client client =
        S3Client.builder()
            .endpointOverride(service)
            .region(Region.of(address.region() == null ? SOME_REGION : address.region()))
            .forcePathStyle(true)
            .credentialsProvider(
                StaticCredentialsProvider.create(
                    AwsBasicCredentials.create(key.access(), key.secret())))
            .requestChecksumCalculation(RequestChecksumCalculation.WHEN_REQUIRED)
            .responseChecksumValidation(ResponseChecksumValidation.WHEN_REQUIRED)
            .httpClient(http.build())
            .build();
    String path = address.address().substring("s3://".length());
    int slash = path.indexOf('/');
    String bucket = slash < 0 ? path : path.substring(0, slash);
    String begin = slash < 0 ? "" : path.substring(slash + 1);
    return new Bucket(client, bucket, begin.isEmpty() || begin.endsWith("/") ? begin : begin + "/");
  }

  private TrustManager[] vouching(String authority) throws IOException {
    try (InputStream in = Files.newInputStream(keys.file(authority))) {
      KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
      store.load(null, null);
      int n = 0;
      for (Certificate each : CertificateFactory.getInstance("X.509").generateCertificates(in)) {
        store.setCertificateEntry("authority-" + n++, each);
      }
      TrustManagerFactory factory =
          TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
      factory.init(store);
      return factory.getTrustManagers();
    } catch (GeneralSecurityException notOne) {
      throw new IOException(authority + " holds no certificate: " + notOne.getMessage());
    }
  }
}
