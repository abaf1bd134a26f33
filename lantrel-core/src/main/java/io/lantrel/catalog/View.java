package io.lantrel.catalog;

import io.lantrel.sql.tree.Query;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A query under a name.
 *
 * @param schema the schema that it is in; empty if none is named
 * @param name its name
 * @param columns new names of its columns, or empty
 * @param query its query; null if Lantrel could not read it, so that its columns are not known
 */
public record View(String schema, String name, List<String> columns, @Nullable Query query) {
  public View {
    columns = List.copyOf(columns);
  }
}
