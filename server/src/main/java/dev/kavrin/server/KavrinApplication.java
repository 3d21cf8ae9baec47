package dev.kavrin.server;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.platform.Node;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.version.LinkSnapshots;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;

/** The service: one process, one page, one database. */
@SpringBootApplication(
    exclude = {
      org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration.class
    })
@org.springframework.data.jpa.repository.config.EnableJpaRepositories(
    considerNestedRepositories = true)
public class KavrinApplication {
  @Bean
  Disk disk(Engine engine) {
    return engine.disk();
  }

  @Bean
  Publisher publisher(Engine engine) {
    return engine.publisher();
  }

  @Bean
  Node node(Engine engine) {
    return new Node(engine.node());
  }

  @Bean
  ReaderProcess comparingReader(Engine engine, LinkSnapshots snapshots) {
    return new ReaderProcess(engine.hours()::bytesPerSecond, snapshots::beside);
  }
}
