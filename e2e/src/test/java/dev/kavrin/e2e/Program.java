package dev.kavrin.e2e;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** The stand-in modelling program, driven through its control port. */
final class Program implements AutoCloseable {
  private final Process process;
  private final Socket socket;
  private final BufferedReader answers;
  private final PrintStream commands;

  Program(Service service, Path file, Path settings) throws IOException {
    process =
        Owner.process(
                service.java(
                    "dev.kavrin.standin.ModellerProcess",
                    file.toString(),
                    settings.toString(),
                    "0"))
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String said = process.inputReader(StandardCharsets.UTF_8).readLine();
    socket =
        new Socket(
            InetAddress.getLoopbackAddress(),
            Integer.parseInt(said.substring("listening ".length())));
    answers =
        new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));
    commands = new PrintStream(socket.getOutputStream(), true, StandardCharsets.UTF_8);
  }

  /** Says a command; what it answers. */
  String say(String command) throws IOException {
    commands.println(command);
    return answers.readLine();
  }

  /** Says a command whose end nobody waits for. */
  void begin(String command) {
    commands.println(command);
  }

  void kill() throws InterruptedException {
    process.destroyForcibly().waitFor(10, TimeUnit.SECONDS);
  }

  @Override
  public void close() throws Exception {
    kill();
    socket.close();
  }
}
