package dev.kavrin.server.platform;

import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.nio.file.Files;
import java.security.GeneralSecurityException;
import java.security.cert.CertificateException;
import java.security.cert.CertificateFactory;
import java.security.cert.X509Certificate;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509ExtendedTrustManager;

/**
 * Trusts the one certificate this service answers with, whatever name it was called by, and no
 * other: for what the service asks of itself.
 */
public final class OwnCertificate extends X509ExtendedTrustManager {
  private final X509Certificate own;

  private OwnCertificate(X509Certificate own) {
    this.own = own;
  }

  /**
   * @throws IOException the certificate cannot be read
   */
  public static SSLContext trusted(Outside outside) throws IOException {
    try (InputStream pem = Files.newInputStream(outside.certificate())) {
      X509Certificate own =
          (X509Certificate) CertificateFactory.getInstance("X.509").generateCertificate(pem);
      SSLContext context = SSLContext.getInstance("TLS");
      context.init(null, new TrustManager[] {new OwnCertificate(own)}, null);
      return context;
    } catch (GeneralSecurityException unusable) {
      throw new IOException(outside.certificate() + ": " + unusable.getMessage(), unusable);
    }
  }

  private void check(X509Certificate[] chain) throws CertificateException {
    if (!chain[0].equals(own)) {
      throw new CertificateException("Another certificate than this service's own");
    }
  }

  @Override
  public void checkServerTrusted(X509Certificate[] chain, String kind) throws CertificateException {
    check(chain);
  }

  @Override
  public void checkServerTrusted(X509Certificate[] chain, String kind, Socket socket)
      throws CertificateException {
    check(chain);
  }

  @Override
  public void checkServerTrusted(X509Certificate[] chain, String kind, SSLEngine engine)
      throws CertificateException {
    check(chain);
  }

  @Override
  public void checkClientTrusted(X509Certificate[] chain, String kind) throws CertificateException {
    check(chain);
  }

  @Override
  public void checkClientTrusted(X509Certificate[] chain, String kind, Socket socket)
      throws CertificateException {
    check(chain);
  }

  @Override
  public void checkClientTrusted(X509Certificate[] chain, String kind, SSLEngine engine)
      throws CertificateException {
    check(chain);
  }

  @Override
  public X509Certificate[] getAcceptedIssuers() {
    return new X509Certificate[] {own};
  }
}
