package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import java.io.IOException;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** Copies stop short of what the program itself needs to write its file once more. */
class FullDiskTest extends EngineFixture {
  private long room;

  /** The real disk, but with as much room as the test says. */
  private Disk filling() {
    return (Disk)
        Proxy.newProxyInstance(
            Disk.class.getClassLoader(),
            new Class<?>[] {Disk.class},
            (proxy, method, arguments) -> {
              if (method.getName().equals("room")) {
                return room;
              }
              try {
                return method.invoke(disk, arguments);
              } catch (InvocationTargetException failed) {
                throw failed.getCause();
              }
            });
  }

  @Test
  void aFullDriveIsLeftToTheProgramAndTheCopyIsMadeUpForLater() throws IOException {
    Disk filling = filling();
    BackupMaker capturer =
        new BackupMaker(filling, new Publisher(filling, "node"), health, recoveries, this);
    watch = new Watch(filling, recoveries, capturer, keeper, words -> false, this, project);
    byte[] model = model(1);
    long needed = model.length + Math.max(BackupMaker.FLOOR, model.length);
    write(live, model);
    room = needed - 1;
    pass(Duration.ofMinutes(30));
    assertThat(captures()).isEmpty();
    assertThat(watch.status().get(0).problem()).contains("keep");
    room = needed;
    pass(Duration.ofMinutes(1));
    assertThat(captures()).hasSize(1);
    assertThat(room - model.length)
        .as("what is left still takes the program's own save")
        .isGreaterThanOrEqualTo(model.length);
    assertThat(watch.status().get(0).problem()).isNull();
  }
}
