package dev.kavrin.server;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.platform.Node;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.QueriesAsWritten;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.version.LinkSnapshots;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Primary;

/** The service: one process, one page, one database. */
@SpringBootApplication(
    exclude = {
      org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration.class
    })
@org.springframework.data.jpa.repository.config.EnableJpaRepositories(
    considerNestedRepositories = true,
    queryEnhancerSelector = QueriesAsWritten.class)
public class KavrinApplication {
  @Bean
  Disk disk(Engine engine) {
    return engine.disk();
  }

  @Bean
  PathGuard pathGuard(Engine engine) {
    return engine.guard();
  }

  @Bean
  Publisher publisher(Engine engine) {
    return engine.publisher();
  }

  @Bean
  Node node(Engine engine) {
    return new Node(engine.node());
  }

  /** For what people asked to see. */
  @Bean
  @Primary
  ReaderProcess comparingReader(Engine engine, LinkSnapshots snapshots) {
    return new ReaderProcess(engine.hours()::bytesPerSecond, snapshots::beside);
  }

  /** For what nobody waits for; so that a large file is not in front of what people asked for. */
  @Bean
  ReaderProcess contentReader(Engine engine, LinkSnapshots snapshots) {
    return new ReaderProcess(engine.hours()::bytesPerSecond, snapshots::beside);
  }
}
