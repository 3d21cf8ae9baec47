package dev.kavrin.server.backup;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.host.Instance;
import dev.kavrin.server.Patience;
import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Real processes that go on in copies of themselves (fork(2)). */
class HostProcessesTest {
  private final String name = "modeller-" + UUID.randomUUID();

  private List<Long> instances() {
    return new HostProcesses().instances(name).stream().map(Instance::pid).toList();
  }

  @Test
  void whatAProgramForksIsNoSecondInstanceAsLongAsTheProgramRuns() throws Exception {
    Process program =
        new ProcessBuilder(
                "bash",
                "-c",
                "exec -a "
                    + name
                    + " bash -c '(while :; do read -t 9 < <(:); done) & echo ready; wait'")
            .start();
    BufferedReader out =
        new BufferedReader(new InputStreamReader(program.getInputStream(), StandardCharsets.UTF_8));
    assertThat(out.readLine()).isEqualTo("ready");
    List<ProcessHandle> forked = program.descendants().toList();
    try {
      assertThat(forked).isNotEmpty();
      assertThat(instances()).containsExactly(program.pid());
      program.destroyForcibly().waitFor();
      await().atMost(Patience.LONG).until(() -> !instances().contains(program.pid()));
      assertThat(instances()).as("it goes on in its copy").contains(forked.get(0).pid());
    } finally {
      forked.forEach(ProcessHandle::destroyForcibly);
      program.destroyForcibly();
    }
  }
}
