package dev.kavrin.server.platform;

import dev.kavrin.core.chunk.ContentId;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.IntegerSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.ObjectSchema;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.responses.ApiResponse;
import jakarta.annotation.Nullable;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.OperationCustomizer;
import org.springdoc.core.customizers.PropertyCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.databind.JsonNode;

/**
 * The shape of the published API: every property of a record is there unless it is marked {@link
 * Nullable}.
 */
@Configuration(proxyBeanMethods = false)
class ApiShape {
  private static final String MAY_LACK = "x-may-lack";
  private static final String PROBLEM = "#/components/schemas/Problem";

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
    SpringDocUtils.getConfig()
        .replaceWithSchema(JsonNode.class, new ObjectSchema().additionalProperties(true));
  }

  /** What is done, and to what: "restore.undo". */
  @Bean
  OperationCustomizer names() {
    return (operation, handler) -> {
      String noun = handler.getBeanType().getSimpleName().replaceFirst("Controller$", "");
      operation.setOperationId(
          noun.substring(0, 1).toLowerCase(Locale.ROOT)
              + noun.substring(1)
              + "."
              + handler.getMethod().getName());
      return operation;
    };
  }

  /** How each call is refused; ApiMatrixTest asks them all wrongly. */
  private static void refusals(String path, Operation operation) {
    Map<String, String> said = new LinkedHashMap<>();
    said.put("401", "No session");
    if (path.contains("{")) {
      said.put("404", "There is no such thing");
    }
    if (Optional.ofNullable(operation.getParameters()).orElse(List.of()).stream()
        .anyMatch(p -> "If-Match".equals(p.getName()))) {
      said.put("412", "Changed since it was read; nothing was changed");
    }
    if (operation.getRequestBody() != null) {
      said.put("422", "It cannot be meant so; nothing was changed");
    }
    said.put("default", "Refused or failed, in words");
    said.forEach(
        (status, words) ->
            operation
                .getResponses()
                .addApiResponse(
                    status,
                    new ApiResponse()
                        .description(words)
                        .content(
                            new Content()
                                .addMediaType(
                                    "application/problem+json",
                                    new MediaType().schema(new Schema<>().$ref(PROBLEM))))));
  }

  /** RFC 9457, with what Kavrin always says. */
  private static Schema<?> problem() {
    Schema<?> text = new StringSchema();
    return new ObjectSchema()
        .addProperty("type", text)
        .addProperty("title", text)
        .addProperty("status", new IntegerSchema())
        .addProperty("detail", text)
        .addProperty("instance", text)
        .required(List.of("type", "title", "status", "detail"));
  }

  @Bean
  OpenApiCustomizer requireTheRest() {
    return api -> {
      api.info(new Info().title("Kavrin").version("1"));
      api.servers(null);
      api.getComponents().getSchemas().values().forEach(ApiShape::require);
      api.getComponents().addSchemas("Problem", problem());
      api.getPaths().forEach((path, item) -> item.readOperations().forEach(o -> refusals(path, o)));
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
