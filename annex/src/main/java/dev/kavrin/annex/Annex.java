package dev.kavrin.annex;

import java.io.IOException;
import java.io.Reader;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Properties;
import org.gaul.s3proxy.AuthenticationType;
import org.gaul.s3proxy.S3Proxy;
import org.jclouds.ContextBuilder;
import org.jclouds.blobstore.BlobStore;
import org.jclouds.blobstore.BlobStoreContext;

/**
 * {@code java … FOLDER BUCKET KEY-FILE PORT}: serves the folder on loopback until it is killed, and
 * prints its address. Port 0 is any free one.
 */
public final class Annex {
  private Annex() {}

  /** Starts serving. */
  public static void main(String[] arguments) throws Exception {
    Properties key = new Properties();
    try (Reader reader = Files.newBufferedReader(Path.of(arguments[2]))) {
      key.load(reader);
    }
    S3Proxy service =
        S3Proxy.builder()
            .blobStore(bucket(Path.of(arguments[0]), arguments[1]))
            .endpoint(URI.create("http://127.0.0.1:" + arguments[3]))
            .awsAuthentication(
                AuthenticationType.AWS_V2_OR_V4,
                key.getProperty("access-key"),
                key.getProperty("secret-key"))
            .build();
    service.start();
    System.out.println("http://127.0.0.1:" + service.getPort());
    System.out.flush();
  }

  private static BlobStore bucket(Path folder, String name) throws IOException {
    Files.createDirectories(folder);
    Properties where = new Properties();
    where.setProperty("jclouds.filesystem.basedir", folder.toString());
    BlobStore store =
        ContextBuilder.newBuilder("filesystem")
            .credentials("annex", "annex")
            .overrides(where)
            .build(BlobStoreContext.class)
            .getBlobStore();
    store.createContainerInLocation(null, name);
    return store;
  }
}
