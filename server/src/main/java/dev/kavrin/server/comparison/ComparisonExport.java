package dev.kavrin.server.comparison;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.PartChange;
import dev.kavrin.server.version.VersionFiles.Side;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
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
    StringBuilder text = new StringBuilder();
    try (CSVPrinter table = CSVFormat.RFC4180.print(text)) {
      table.printRecord(
          "outcome", "kind", "part in A", "part in B", "words", "measure", "A", "B", "unit");
      for (PartChange part : comparison.changes()) {
        List<Object> head =
            Arrays.asList(part.outcome(), part.kind(), part.a(), part.b(), part.words());
        if (part.numbers().isEmpty()) {
          table.printRecord(row(head, null, null, null, null));
        }
        for (Map.Entry<String, PartChange.Pair> number : part.numbers().entrySet()) {
          PartChange.Pair pair = number.getValue();
          table.printRecord(row(head, number.getKey(), pair.a(), pair.b(), pair.unit()));
        }
      }
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return text.toString().getBytes(StandardCharsets.UTF_8);
  }

  private static Stream<Object> row(List<Object> head, Object... number) {
    return Stream.concat(head.stream(), Arrays.stream(number));
  }
}
