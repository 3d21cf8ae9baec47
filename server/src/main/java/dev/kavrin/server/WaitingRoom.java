package dev.kavrin.server;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsParameters;
import com.sun.net.httpserver.HttpsServer;
import dev.kavrin.server.platform.Outside;
import dev.kavrin.server.platform.Settings;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLParameters;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.ssl.SslBundle;
import org.springframework.boot.ssl.pem.PemSslStoreBundle;
import org.springframework.boot.ssl.pem.PemSslStoreDetails;

/** What a browser meets while the database does not answer at start. */
final class WaitingRoom {
  private static final Logger LOG = LoggerFactory.getLogger(WaitingRoom.class);
  private static final long PAUSE_MILLIS = 1000;
  private static final int WAITING_CALLS = 16;
  private static final String PAGE =
      """
      <!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="3">
      <title>Kavrin is waiting for its records</title>
      <style>body{font:16px/1.5 sans-serif;max-width:40em;margin:4em auto;padding:0 1em;
      background:#F5F2EA;color:#1D2A31}</style>
      <h1>Kavrin is waiting for its records</h1>
      <p>The database (PostgreSQL) does not answer. Backups go on being made. Nothing was lost, and
      nothing is dropped meanwhile.</p>
      <p>This page looks again every three seconds. <code>./kavrin doctor</code> says what is
      wrong.</p></html>""";

  private WaitingRoom() {}

  static void untilDatabaseAnswers(Settings settings) throws IOException, InterruptedException {
    if (answers(settings)) {
      return;
    }
    LOG.warn("Records cannot be reached at {}; backups go on meanwhile", settings.databaseUrl());
    HttpServer server = open(settings.port(), settings.outside());
    try {
      while (!answers(settings)) {
        Thread.sleep(PAUSE_MILLIS);
      }
    } finally {
      server.stop(0);
    }
    LOG.info("Records answer");
  }

  /**
   * The page, at once, where Kavrin itself will answer: on loopback, or by TLS.
   *
   * @param port 0 for any that is free
   */
  static HttpServer open(int port, @Nullable Outside outside) throws IOException {
    String address = outside == null ? "127.0.0.1" : outside.address();
    InetSocketAddress at = new InetSocketAddress(InetAddress.getByName(address), port);
    HttpServer server = outside == null ? HttpServer.create(at, WAITING_CALLS) : byTls(at, outside);
    server.createContext("/", WaitingRoom::tell);
    server.start();
    return server;
  }

  private static HttpServer byTls(InetSocketAddress at, Outside outside) throws IOException {
    HttpsServer server = HttpsServer.create(at, WAITING_CALLS);
    PemSslStoreDetails pem =
        PemSslStoreDetails.forCertificate(outside.certificate().toUri().toString())
            .withPrivateKey(outside.key().toUri().toString());
    SSLContext context = SslBundle.of(new PemSslStoreBundle(pem, null)).createSslContext();
    server.setHttpsConfigurator(
        new HttpsConfigurator(context) {
          @Override
          public void configure(HttpsParameters call) {
            call.setSSLParameters(
                new SSLParameters(
                    context.getDefaultSSLParameters().getCipherSuites(), Outside.PROTOCOLS));
          }
        });
    return server;
  }

  private static void tell(HttpExchange exchange) throws IOException {
    byte[] words = PAGE.getBytes(StandardCharsets.UTF_8);
    exchange.getResponseHeaders().set("Content-Type", "text/html; charset=utf-8");
    exchange.getResponseHeaders().set("Retry-After", "3");
    exchange.sendResponseHeaders(503, words.length);
    exchange.getResponseBody().write(words);
    exchange.close();
  }

  private static boolean answers(Settings settings) {
    try (Connection c =
        DriverManager.getConnection(
            settings.databaseUrl(), settings.databaseUser(), settings.databasePassword())) {
      return c.isValid(2);
    } catch (SQLException notYet) {
      return false;
    }
  }
}
