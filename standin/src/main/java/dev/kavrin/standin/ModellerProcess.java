package dev.kavrin.standin;

import dev.kavrin.core.content.gltf.MeshData;
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
import java.time.Duration;
import java.time.InstantSource;
import java.util.Optional;

/**
 * The modelling program as a process of its own.
 *
 * <p>{@code java … FILE SETTINGS PORT} listens on loopback (0 picks a port) and prints {@code
 * listening PORT}; {@code java … FILE SETTINGS @SCRIPT} plays a file of the same commands: {@code
 * add NAME}, {@code move NAME MM}, {@code remove NAME}, {@code turn NAME}, {@code save}, {@code
 * slowsave MS}, {@code copy}, {@code crash}, {@code close}, {@code wait MS}.
 */
public final class ModellerProcess {
  private final Modeller modeller;
  private int added;

  private ModellerProcess(Modeller modeller) {
    this.modeller = modeller;
  }

  public static void main(String[] arguments) throws Exception {
    Path settings = Path.of(arguments[1]);
    Modeller modeller = new Modeller(Path.of(arguments[0]), settings, InstantSource.system());
    ModellerProcess process = new ModellerProcess(modeller);
    Thread copies = new Thread(process::copyInTime, "own-copies");
    copies.setDaemon(true);
    copies.start();
    if (arguments[2].startsWith("@")) {
      for (String line : Files.readAllLines(Path.of(arguments[2].substring(1)))) {
        process.obey(line);
      }
      return;
    }
    try (ServerSocket socket =
        new ServerSocket(Integer.parseInt(arguments[2]), 5, InetAddress.getLoopbackAddress())) {
      System.out.println("listening " + socket.getLocalPort());
      while (true) {
        process.talk(socket.accept());
      }
    }
  }

  private void copyInTime() {
    try {
      while (true) {
        Thread.sleep(200);
        synchronized (this) {
          modeller.copyIfDue();
        }
      }
    } catch (InterruptedException | IOException ended) {
      System.err.println("own copies stopped: " + ended.getMessage());
    }
  }

  private void talk(Socket socket) throws IOException {
    try (socket;
        BufferedReader in =
            new BufferedReader(
                new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));
        PrintStream out = new PrintStream(socket.getOutputStream(), true, StandardCharsets.UTF_8)) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        String answer;
        try {
          answer = "ok " + obey(line);
        } catch (IllegalArgumentException | InterruptedException wrong) {
          answer = "no " + wrong.getMessage();
        }
        out.println(answer);
      }
    }
  }

  private synchronized String obey(String line) throws IOException, InterruptedException {
    int space = line.indexOf(' ');
    String verb = space < 0 ? line : line.substring(0, space);
    String rest = space < 0 ? "" : line.substring(space + 1).trim();
    switch (verb) {
      case "add" -> add(rest);
      case "move" -> move(rest);
      case "remove" -> modeller.scene().remove(rest);
      case "turn" -> modeller.scene().change(rest, Shapes.turnedRound(modeller.scene().mesh(rest)));
      case "save" -> modeller.save();
      case "slowsave" -> modeller.saveSlowly(Duration.ofMillis(Long.parseLong(rest)));
      case "copy" -> modeller.copyNow();
      case "wait" -> Thread.sleep(Long.parseLong(rest));
      case "crash" -> {
        modeller.writeRescue();
        Runtime.getRuntime().halt(139);
      }
      case "close" -> {
        modeller.close();
        Runtime.getRuntime().halt(0);
      }
      default -> throw new IllegalArgumentException("unknown command " + verb);
    }
    if (Optional.of(verb).filter(v -> v.matches("add|move|remove|turn")).isPresent()) {
      modeller.touched();
    }
    return modeller.scene().size() + " parts";
  }

  private void add(String name) {
    MeshData shape = Shapes.moved(Shapes.box(0.3, 0.2, 0.2, 6), ++added * 0.4, -0.5, 1.2);
    modeller.scene().put(name, "Fittings", shape);
  }

  private void move(String rest) {
    int last = rest.lastIndexOf(' ');
    String name = rest.substring(0, last);
    double metres = Double.parseDouble(rest.substring(last + 1)) / 1000;
    modeller.scene().change(name, Shapes.moved(modeller.scene().mesh(name), 0, metres, 0));
  }
}
