package dev.kavrin.standin;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Drives a stand-in: commands one a line, from a script file or over a port on loopback. */
final class ControlPort {
  private ControlPort() {}

  /** Carries out one command and answers in words. */
  interface Commands {
    String obey(String verb, String rest) throws IOException, InterruptedException;
  }

  /**
   * @param where {@code @FILE} plays a script and returns; a port number (0 picks one) is listened
   *     on for ever and told as {@code listening PORT}
   */
  static void serve(String where, Commands commands) throws IOException, InterruptedException {
    if (where.startsWith("@")) {
      for (String line : Files.readAllLines(Path.of(where.substring(1)))) {
        obey(line, commands);
      }
      return;
    }
    try (ServerSocket socket =
        new ServerSocket(Integer.parseInt(where), 5, InetAddress.getLoopbackAddress())) {
      System.out.println("listening " + socket.getLocalPort());
      while (true) {
        talk(socket.accept(), commands);
      }
    }
  }

  private static void talk(Socket socket, Commands commands) throws IOException {
    try (socket;
        BufferedReader in =
            new BufferedReader(
                new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));
        PrintStream out = new PrintStream(socket.getOutputStream(), true, StandardCharsets.UTF_8)) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        String answer;
        try {
          answer = "ok " + obey(line, commands);
        } catch (IllegalArgumentException | InterruptedException wrong) {
          answer = "no " + wrong.getMessage();
        }
        out.println(answer);
      }
    }
  }

  private static String obey(String line, Commands commands)
      throws IOException, InterruptedException {
    int space = line.indexOf(' ');
    return space < 0
        ? commands.obey(line, "")
        : commands.obey(line.substring(0, space), line.substring(space + 1).trim());
  }
}
