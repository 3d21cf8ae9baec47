package dev.kavrin.server;

import com.sun.net.httpserver.HttpServer;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What a browser meets while the database does not answer at start. */
final class WaitingRoom {
  private static final Logger LOG = LoggerFactory.getLogger(WaitingRoom.class);
  private static final long PAUSE_MILLIS = 1000;

  private WaitingRoom() {}

  static void untilDatabaseAnswers(Settings settings, Engine engine)
      throws IOException, InterruptedException {
    if (answers(settings)) {
      return;
    }
    LOG.warn("Records cannot be reached at {}; copies go on meanwhile", settings.databaseUrl());
    HttpServer server =
        HttpServer.create(
            new InetSocketAddress(InetAddress.getByName("127.0.0.1"), settings.port()), 16);
    server.createContext(
        "/",
        exchange -> {
          byte[] words = page(engine).getBytes(StandardCharsets.UTF_8);
          exchange.getResponseHeaders().set("Content-Type", "text/html; charset=utf-8");
          exchange.getResponseHeaders().set("Retry-After", "3");
          exchange.sendResponseHeaders(503, words.length);
          exchange.getResponseBody().write(words);
          exchange.close();
        });
    server.start();
    try {
      while (!answers(settings)) {
        Thread.sleep(PAUSE_MILLIS);
      }
    } finally {
      server.stop(0);
    }
    LOG.info("Records answer");
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

  private static String page(Engine engine) {
    return """
        <!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="3">
        <title>Kavrin is waiting for its records</title>
        <style>body{font:16px/1.5 sans-serif;max-width:40em;margin:4em auto;padding:0 1em;
        background:#F5F2EA;color:#1D2A31}</style>
        <h1>Kavrin is waiting for its records</h1>
        <p>The database (PostgreSQL) does not answer. Copies go on being made: %d projects are
        watched. Nothing was lost, and nothing is dropped meanwhile.</p>
        <p>This page looks again every three seconds. <code>./kavrin doctor</code> says what is
        wrong.</p></html>"""
        .formatted(engine.projects().size());
  }
}
