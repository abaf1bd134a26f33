package io.lantrel.report;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.lantrel.compare.ExpectedTable;
import io.lantrel.engine.DataException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A table in a file: CSV, or JSON as a list of objects, one for each row, or as {@code lantrel rows
 * --format json} writes it.
 */
public final class TableFile {

  private static final ObjectMapper MAPPER =
      new ObjectMapper()
          .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
          .enable(JsonParser.Feature.STRICT_DUPLICATE_DETECTION)
          .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS);

  private TableFile() {}

  /** Whether a file is one by its name. */
  public static boolean isOne(String name) {
    String key = name.toLowerCase(Locale.ROOT);
    return key.endsWith(".csv") || key.endsWith(".json");
  }

  /**
   * Reads it.
   *
   * @throws DataException if it cannot be read, or is something else; the message says where
   */
  public static ExpectedTable read(Path file) {
    String name = String.valueOf(file.getFileName());
    if (!Files.isRegularFile(file)) {
      throw new DataException(
          file + ": " + (Files.exists(file) ? "this is no file" : "there is no such file"));
    }
    if (name.toLowerCase(Locale.ROOT).endsWith(".csv")) {
      return ExpectedTable.ofCsv(file);
    }
    try {
      return table(name, MAPPER.readTree(file.toFile()));
    } catch (JsonProcessingException malformed) {
      throw new DataException(
          name
              + ":"
              + malformed.getLocation().getLineNr()
              + ":"
              + malformed.getLocation().getColumnNr()
              + ": this is no JSON: "
              + malformed.getOriginalMessage(),
          malformed);
    } catch (IOException failure) {
      throw new DataException(name + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  private static ExpectedTable table(String name, JsonNode json) {
    if (json.isArray()) {
      return ofObjects(name, json);
    }
    JsonNode result = json.path("statements").path(0).path("result");
    if (json.path("statements").size() == 1 && result.has("columns") && result.has("rows")) {
      return ofRows(name, result);
    }
    throw new DataException(
        name
            + ": a table in JSON is a list of objects, one for each row, or what rows --format json"
            + " wrote of one query");
  }

  private static ExpectedTable ofRows(String name, JsonNode result) {
    if (result.path("count").asLong() != result.path("rows").size()) {
      throw new DataException(
          name
              + ": it holds the first "
              + result.path("rows").size()
              + " of "
              + result.path("count").asLong()
              + " rows; write it with --rows "
              + result.path("count").asLong());
    }
    List<String> headings = new ArrayList<>();
    result.path("columns").forEach(column -> headings.add(column.path("name").asText()));
    List<List<@Nullable Object>> rows = new ArrayList<>();
    for (JsonNode row : result.path("rows")) {
      List<@Nullable Object> values = new ArrayList<>();
      row.path("values").forEach(value -> values.add(value(name, value)));
      if (values.size() != headings.size()) {
        throw new DataException(
            name + ": row " + (rows.size() + 1) + " has not one value for each column");
      }
      rows.add(values);
    }
    return new ExpectedTable(name, headings, rows);
  }

  /** What a row does not name is NULL in it. */
  private static ExpectedTable ofObjects(String name, JsonNode list) {
    Set<String> headings = new LinkedHashSet<>();
    int number = 0;
    for (JsonNode row : list) {
      number++;
      if (!row.isObject()) {
        throw new DataException(
            name + ": element " + number + " of the list is no object with the columns of a row");
      }
      row.fieldNames().forEachRemaining(headings::add);
    }
    if (headings.isEmpty()) {
      throw new DataException(
          name + ": an empty list names no columns; use CSV for an empty table");
    }
    List<List<@Nullable Object>> rows = new ArrayList<>();
    for (JsonNode row : list) {
      List<@Nullable Object> values = new ArrayList<>();
      headings.forEach(heading -> values.add(value(name, row.path(heading))));
      rows.add(values);
    }
    return new ExpectedTable(name, List.copyOf(headings), rows);
  }

  private static @Nullable Object value(String name, JsonNode value) {
    if (value.isNull() || value.isMissingNode()) {
      return null;
    }
    if (value.isContainerNode()) {
      throw new DataException(name + ": a value is a text, a number, true, false or null");
    }
    return value.isNumber()
        ? value.decimalValue()
        : value.isBoolean() ? (Object) value.booleanValue() : value.asText();
  }
}
