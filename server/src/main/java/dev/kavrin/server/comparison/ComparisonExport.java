package dev.kavrin.server.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.PartChange;
import dev.kavrin.server.trail.StateFiles.Side;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Forms in which a comparison leaves the house. */
enum ComparisonExport {
  /** By {@code docs/comparison.schema.json}. */
  JSON("json", "application/json"),
  /** RFC 4180: one line for each number of each part. */
  CSV("csv", "text/csv;charset=UTF-8");

  private final String ending;
  private final String type;

  ComparisonExport(String ending, String type) {
    this.ending = ending;
    this.type = type;
  }

  String ending() {
    return ending;
  }

  String type() {
    return type;
  }

  byte[] written(Comparison comparison, Side a, Side b) {
    return this == JSON ? json(comparison, a, b) : csv(comparison);
  }

  private static byte[] json(Comparison comparison, Side a, Side b) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", Comparison.VERSION);
    body.put("sentence", comparison.sentence());
    body.put("tolerance", comparison.tolerance());
    body.put("a", side(a, comparison.a()));
    body.put("b", side(b, comparison.b()));
    body.put("parts", comparison.changes());
    if (comparison.bytes() != null) {
      body.put("bytes", comparison.bytes());
    }
    return JsonMapper.builder()
        .enable(SerializationFeature.INDENT_OUTPUT)
        .changeDefaultPropertyInclusion(all -> all.withValueInclusion(JsonInclude.Include.NON_NULL))
        .build()
        .writeValueAsBytes(body);
  }

  private static Map<String, Object> side(Side side, Comparison.Side read) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("name", side.name());
    body.put("content", side.content());
    body.put("format", read.format());
    body.put("findings", read.findings());
    return body;
  }

  private static byte[] csv(Comparison comparison) {
    StringBuilder text =
        new StringBuilder("outcome,kind,part in A,part in B,words,measure,A,B,unit\r\n");
    for (PartChange part : comparison.changes()) {
      String head =
          String.join(
              ",",
              part.outcome().name(),
              cell(part.kind()),
              cell(part.a()),
              cell(part.b()),
              cell(part.words()));
      if (part.numbers().isEmpty()) {
        text.append(head).append(",,,,\r\n");
      }
      part.numbers()
          .forEach(
              (name, pair) ->
                  text.append(head)
                      .append(',')
                      .append(cell(name))
                      .append(',')
                      .append(pair.a() == null ? "" : pair.a())
                      .append(',')
                      .append(pair.b() == null ? "" : pair.b())
                      .append(',')
                      .append(cell(pair.unit()))
                      .append("\r\n"));
    }
    return text.toString().getBytes(StandardCharsets.UTF_8);
  }

  private static String cell(String text) {
    return text == null
        ? ""
        : text.matches("(?s).*[\",\r\n].*") ? '"' + text.replace("\"", "\"\"") + '"' : text;
  }
}
