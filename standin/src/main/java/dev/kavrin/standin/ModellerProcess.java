package dev.kavrin.standin;

import dev.kavrin.core.content.mesh.MeshData;
import java.io.IOException;
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
    ControlPort.serve(arguments[2], process::obey);
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

  private synchronized String obey(String verb, String rest)
      throws IOException, InterruptedException {
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
