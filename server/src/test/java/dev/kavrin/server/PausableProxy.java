package dev.kavrin.server;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/**
 * Passes on what is said between two programs, or nothing while paused: connections are taken and
 * nobody answers, as when the other process is stopped (SIGSTOP).
 */
final class PausableProxy implements AutoCloseable {
  private final ServerSocket server;
  private final int target;
  private final ExecutorService threads =
      Executors.newCachedThreadPool(
          task -> {
            Thread thread = new Thread(task, "proxy");
            thread.setDaemon(true);
            return thread;
          });
  private boolean paused;

  PausableProxy(int target) throws IOException {
    this.target = target;
    this.server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    threads.submit(this::accept);
  }

  int port() {
    return server.getLocalPort();
  }

  synchronized void pause() {
    paused = true;
  }

  synchronized void goOn() {
    paused = false;
    notifyAll();
  }

  private synchronized void waitWhilePaused() throws InterruptedException {
    while (paused) {
      wait();
    }
  }

  private Void accept() throws IOException {
    while (true) {
      Socket near = server.accept();
      Socket far = new Socket(InetAddress.getLoopbackAddress(), target);
      threads.submit(() -> pass(near, far));
      threads.submit(() -> pass(far, near));
    }
  }

  private Void pass(Socket from, Socket to) throws InterruptedException {
    byte[] block = new byte[1 << 14];
    try (from;
        to;
        InputStream in = from.getInputStream();
        OutputStream out = to.getOutputStream()) {
      for (int n = in.read(block); n >= 0; n = in.read(block)) {
        waitWhilePaused();
        out.write(block, 0, n);
        out.flush();
      }
    } catch (IOException closed) {
      return null;
    }
    return null;
  }

  @Override
  public void close() {
    goOn();
    threads.shutdownNow();
    try {
      server.close();
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
  }
}
