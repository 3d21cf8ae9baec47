package dev.kavrin.server.platform;

import java.time.InstantSource;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.scheduling.annotation.EnableScheduling;

/** What all features share. */
@Configuration(proxyBeanMethods = false)
@EnableScheduling
class Platform {
  @Bean
  InstantSource clock() {
    return InstantSource.system();
  }

  @Bean
  RecordsSource dataSource(Settings settings) {
    return new RecordsSource(settings);
  }
}
