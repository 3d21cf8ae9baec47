package dev.kavrin.server;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.LockSupport;

/** A line to a service that can be cut after so many bytes, and can answer 500 by itself. */
final class UnsureLine implements AutoCloseable {
  private static final String FAILING = "500 Internal Server Error";

  private final URI behind;
  private final ServerSocket server;
  private final Set<Socket> open = ConcurrentHashMap.newKeySet();
  private final AtomicLong sent = new AtomicLong();
  private final AtomicLong until = new AtomicLong(Long.MAX_VALUE);
  private final AtomicInteger failing = new AtomicInteger();
  private volatile byte[] answer = answer(FAILING, "");
  private volatile long bytesPerSecond = Long.MAX_VALUE;

  UnsureLine(URI behind) throws IOException {
    this.behind = behind;
    this.server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    thread(this::accept);
  }

  URI address() {
    return URI.create("http://127.0.0.1:" + server.getLocalPort());
  }

  /** Bytes sent to the service so far. */
  long sent() {
    return sent.get();
  }

  /** Cuts the line for good once so many more bytes went to the service. */
  void cutAfter(long bytes) {
    until.set(sent.get() + bytes);
  }

  void mend() {
    until.set(Long.MAX_VALUE);
  }

  /** The next so many connections are answered with 500; those that stand are ended. */
  void failing(int count) throws IOException {
    answer = answer(FAILING, "");
    answerInstead(count);
  }

  /** The next so many connections are refused as an S3 service refuses, with its own code. */
  void refusing(int count, String code) throws IOException {
    answer = answer("403 Forbidden", "<Error><Code>" + code + "</Code></Error>");
    answerInstead(count);
  }

  /** So many bytes a second each way, from now on. */
  void slow(long rate) {
    bytesPerSecond = rate;
  }

  private static byte[] answer(String status, String body) {
    return ("HTTP/1.1 %s\r\nContent-Type: application/xml\r\nContent-Length: %d\r\nConnection: close\r\n\r\n%s"
            .formatted(status, body.length(), body))
        .getBytes(StandardCharsets.US_ASCII);
  }

  private void answerInstead(int count) throws IOException {
    failing.set(count);
    for (Socket socket : open) {
      socket.close();
    }
  }

  private void accept() {
    while (!server.isClosed()) {
      try {
        Socket here = server.accept();
        open.add(here);
        if (sent.get() >= until.get()) {
          here.close();
        } else if (failing.getAndUpdate(n -> Math.max(0, n - 1)) > 0) {
          thread(() -> fail(here));
        } else {
          Socket there = new Socket(behind.getHost(), behind.getPort());
          open.add(there);
          thread(() -> pass(here, there, true));
          thread(() -> pass(there, here, false));
        }
      } catch (IOException closed) {
        continue;
      }
    }
  }

  private void fail(Socket here) {
    try (here) {
      byte[] block = new byte[1 << 16];
      int read = here.getInputStream().read(block);
      if (read > 0) {
        here.getOutputStream().write(answer);
      }
    } catch (IOException gone) {
      return;
    }
  }

  private void pass(Socket from, Socket to, boolean counted) {
    byte[] block = new byte[1 << 14];
    try (from;
        to) {
      InputStream in = from.getInputStream();
      OutputStream out = to.getOutputStream();
      for (int n = in.read(block); n >= 0; n = in.read(block)) {
        if (counted && sent.addAndGet(n) >= until.get()) {
          return;
        }
        out.write(block, 0, n);
        if (bytesPerSecond != Long.MAX_VALUE) {
          LockSupport.parkNanos(n * 1_000_000_000L / bytesPerSecond);
        }
      }
    } catch (IOException cut) {
      return;
    } finally {
      open.remove(from);
    }
  }

  private static void thread(Runnable work) {
    Thread thread = new Thread(work, "line");
    thread.setDaemon(true);
    thread.start();
  }

  @Override
  public void close() throws IOException {
    server.close();
    for (Socket socket : open) {
      socket.close();
    }
  }
}
