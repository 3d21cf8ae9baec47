package dev.kavrin.e2e;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** A stand-in program, driven through its control port. */
final class Program implements AutoCloseable {
  private static final String LISTENING = "listening ";

  private final Process process;
  private final Socket socket;
  private final BufferedReader answers;
  private final PrintStream commands;

  /** The modelling program with a file open. */
  static Program modeller(Service service, Path file, Path settings) throws IOException {
    return new Program(
        service.java(
            "dev.kavrin.standin.ModellerProcess", file.toString(), settings.toString(), "0"));
  }

  /** The solver, going on from a step. */
  static Program solver(Service service, Path setup, long from) throws IOException {
    return new Program(
        service.java(
            "dev.kavrin.standin.SolverProcess", setup.toString(), String.valueOf(from), "0"));
  }

  private Program(List<String> command) throws IOException {
    List<String> quiet = new ArrayList<>(command);
    quiet.add(1, "-Dlogback.configurationFile=quiet-logging.xml");
    process = Owner.process(quiet).redirectError(ProcessBuilder.Redirect.INHERIT).start();
    String said = process.inputReader(StandardCharsets.UTF_8).readLine();
    if (said == null || !said.startsWith(LISTENING)) {
      process.destroyForcibly();
      throw new IOException("The program said: " + said);
    }
    socket =
        new Socket(
            InetAddress.getLoopbackAddress(), Integer.parseInt(said.substring(LISTENING.length())));
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
