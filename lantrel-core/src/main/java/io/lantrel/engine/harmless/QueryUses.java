package io.lantrel.engine.harmless;

import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Window;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What running a query runs: functions, operators, types, tables. Clauses that the tree keeps as
 * words are searched for calls too: whatever stands before a parenthesis in them counts as one.
 */
final class QueryUses {

  // Possessive: a text may have millions of characters.
  private static final Pattern CALL =
      Pattern.compile("(\"[^\"]++(?:\"\"[^\"]*+)*+\"|[A-Za-z_][A-Za-z0-9_$]*+) ?\\(");
  private static final Pattern TEXT = Pattern.compile("'[^']*+(?:''[^']*+)*+'");

  private final List<List<Identifier>> functions = new ArrayList<>();
  private final Set<String> operators = new HashSet<>();
  private final List<String> types = new ArrayList<>();
  private final List<List<Identifier>> tables = new ArrayList<>();
  private final Set<String> commonTables = new HashSet<>();
  private final List<Identifier> columns = new ArrayList<>();
  private @Nullable String sequence;

  QueryUses(Query query) {
    query.preorder().forEach(this::add);
  }

  /** Names of functions, in parts. */
  List<List<Identifier>> functions() {
    return functions;
  }

  Set<String> operators() {
    return operators;
  }

  /** Types as written. */
  List<String> types() {
    return types;
  }

  /** Names of tables, in parts; those that WITH defines may be among them. */
  List<List<Identifier>> tables() {
    return tables;
  }

  /** Whether WITH defines a table of that name somewhere in the query. */
  boolean isCommonTable(List<Identifier> name) {
    return name.size() == 1 && commonTables.contains(name.get(0).key());
  }

  /** The last parts of the names of columns and fields. */
  List<Identifier> columns() {
    return columns;
  }

  /** What draws a number from a sequence without looking like a call; null if nothing does. */
  @Nullable String sequence() {
    return sequence;
  }

  private void add(Node node) {
    if (node instanceof Call.FunctionCall call) {
      functions.add(call.name());
      words(call.clauses());
      words(call.treatment());
    } else if (node instanceof Call.WordedCall call) {
      call.words().forEach(this::words);
      if (!call.name().isEmpty()) {
        functions.add(List.of(Identifier.of(call.name())));
      }
    } else if (node instanceof Value value) {
      value(value);
    } else if (node instanceof Condition.Comparison comparison) {
      operators.add(comparison.operator().sign());
    } else if (node instanceof Condition.Quantified quantified) {
      operators.add(quantified.sign());
    } else if (node instanceof FromItem.TableName table) {
      tables.add(table.name());
      words(table.partition());
      words(table.sample());
    } else if (node instanceof CommonTable table) {
      commonTables.add(table.name().key());
      words(table.walk());
    } else if (node instanceof QueryBody.SetOperation operation) {
      words(operation.matching());
    } else if (node instanceof TypeName type) {
      type(type.text());
    } else if (node instanceof Window.Frame frame) {
      words(frame.exclusion());
    }
  }

  private void value(Value value) {
    if (value instanceof Value.Arithmetic arithmetic) {
      operators.add(arithmetic.operator().sign());
    } else if (value instanceof Value.Operation operation) {
      operators.add(operation.sign());
      words(operation.sign());
    } else if (value instanceof Value.Signed signed) {
      operators.add(signed.minus() ? "-" : "+");
    } else if (value instanceof Value.Cast cast) {
      type(cast.type().text());
    } else if (value instanceof Value.Literal literal) {
      literal(literal);
    } else if (value instanceof Value.Interval interval) {
      words(interval.unit());
    } else if (value instanceof Value.ColumnName column) {
      columns.add(column.name());
    } else if (value instanceof Value.FieldOf field) {
      columns.add(field.field());
    }
  }

  /** {@code mood 'glad'} calls what reads the type's texts. */
  private void literal(Value.Literal literal) {
    if (literal.kind() == Value.LiteralKind.OTHER) {
      String before = TEXT.matcher(literal.text()).replaceAll("");
      type(before);
      sequence = before.startsWith("NEXT ") ? literal.text() : sequence;
    }
  }

  private void type(String text) {
    words(text);
  }

  /** Clauses may name types as well: {@code RETURNING mood}. */
  private void words(@Nullable String text) {
    if (text == null || text.isEmpty()) {
      return;
    }
    String withoutTexts = TEXT.matcher(text).replaceAll(" ");
    types.add(withoutTexts);
    if (text.indexOf('(') < 0) {
      return;
    }
    Matcher calls = CALL.matcher(withoutTexts);
    while (calls.find()) {
      String name = calls.group(1);
      boolean quoted = name.startsWith("\"");
      String plain = quoted ? name.substring(1, name.length() - 1) : name;
      functions.add(List.of(Identifier.of(plain)));
    }
  }
}
