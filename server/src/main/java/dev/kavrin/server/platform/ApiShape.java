package dev.kavrin.server.platform;

import dev.kavrin.core.chunk.ContentId;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import jakarta.annotation.Nullable;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.PropertyCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * The shape of the published API: every property of a record is there unless it is marked {@link
 * Nullable}.
 */
@Configuration(proxyBeanMethods = false)
class ApiShape {
  private static final String MAY_LACK = "x-may-lack";

  @Bean
  PropertyCustomizer nullables() {
    return (property, type) -> {
      boolean nullable =
          type.getCtxAnnotations() != null
              && Arrays.stream(type.getCtxAnnotations()).anyMatch(Nullable.class::isInstance);
      if (nullable) {
        property.addExtension(MAY_LACK, true);
      }
      return property;
    };
  }

  static {
    SpringDocUtils.getConfig().replaceWithSchema(ContentId.class, new StringSchema());
  }

  @Bean
  OpenApiCustomizer requireTheRest() {
    return api -> {
      api.info(new Info().title("Kavrin").version("1"));
      api.servers(null);
      api.getComponents().getSchemas().values().forEach(ApiShape::require);
    };
  }

  @SuppressWarnings({"rawtypes", "unchecked"})
  private static void require(Schema schema) {
    Map<String, Schema> properties = schema.getProperties();
    if (properties == null) {
      return;
    }
    List<String> required =
        properties.entrySet().stream()
            .filter(
                e ->
                    e.getValue().getExtensions() == null
                        || !e.getValue().getExtensions().containsKey(MAY_LACK))
            .map(Map.Entry::getKey)
            .sorted()
            .toList();
    properties.values().stream()
        .filter(p -> p.getExtensions() != null)
        .forEach(p -> p.getExtensions().remove(MAY_LACK));
    schema.setRequired(required);
  }
}
