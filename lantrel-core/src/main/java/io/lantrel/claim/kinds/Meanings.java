package io.lantrel.claim.kinds;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.claim.ClaimException;
import io.lantrel.claim.text.ReadClaim;
import io.lantrel.probe.Question;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** What claims mean for a query whose names are known. */
public final class Meanings {

  private static final Set<TypeFamily> NO_NUMBERS =
      Set.of(
          TypeFamily.TEXT,
          TypeFamily.DATE,
          TypeFamily.TIME,
          TypeFamily.TIMESTAMP,
          TypeFamily.TRUTH);

  private final ResultNames names;
  private final Catalog catalog;

  public Meanings(ResultNames names, Catalog catalog) {
    this.names = names;
    this.catalog = catalog;
  }

  /**
   * What a claim means; not for those that compare two results.
   *
   * @throws ClaimException if it names what is not there
   * @throws UndecidedException if it cannot be found out
   */
  public Meaning of(ReadClaim claim) {
    return switch (claim.form()) {
      case ONE_ROW_PER -> oneRowPer(claim);
      case EVERY_APPEARS -> {
        Subject subject = names.subject(claim.last(), true);
        yield new EveryAppears(subject, condition(claim, subject));
      }
      case NO_NULL ->
          new NoNull(claim.names().stream().map(names::column).toList(), words(claim.names()));
      case TOTAL -> total(claim, claim.last().subList(0, claim.last().size() - 1), true);
      case NUMBER -> total(claim, claim.last(), false);
      case NO_ROWS -> new RowCount(0, 0);
      case AT_LEAST -> new RowCount(claim.number(), Long.MAX_VALUE);
      case AT_MOST -> new RowCount(0, claim.number());
      case EXACTLY -> new RowCount(claim.number(), claim.number());
      case LEVELS -> Levels.of(claim.number(), names.resolution());
      case ORDER ->
          new Ordered(
              claim.names().stream().map(names::column).toList(),
              claim.descending(),
              words(claim.names()));
      case REFERS -> refers(claim);
      case ONE_OF -> oneOf(claim);
      case BETWEEN -> between(claim);
      case SAME_ROWS, ROWS_OF -> throw new IllegalArgumentException("results are compared");
    };
  }

  /** How many levels the query's recursion has, up to so many; empty if they cannot be counted. */
  public Optional<Question<Long>> depth(long most) {
    return Levels.ifAny(most, names.resolution()).map(levels -> levels.depth(catalog.dialect()));
  }

  private Meaning oneRowPer(ReadClaim claim) {
    List<Integer> columns = new ArrayList<>();
    List<Subject> subjects = new ArrayList<>();
    for (List<Identifier> name : claim.names()) {
      Optional<Integer> shown = names.ifHeading(name);
      Optional<Subject> subject =
          shown.isPresent() ? Optional.empty() : names.ifSubject(name, false);
      if (subject.isPresent()) {
        subjects.add(subject.get());
      } else {
        columns.add(
            shown
                .or(() -> names.ifOfTable(name))
                .orElseThrow(() -> names.unknownColumnOrTable(name)));
      }
    }
    return new OneRowPer(columns, subjects, words(claim.names()));
  }

  private TableCondition condition(ReadClaim claim, Subject subject) {
    return TableCondition.of(claim.condition(), subject.table(), subject.alias(), catalog);
  }

  private Meaning total(ReadClaim claim, List<Identifier> table, boolean ofColumn) {
    if (table.isEmpty()) {
      throw new ClaimException(
          "a total is that of a column of a table, as: total of "
              + ResultNames.words(claim.names().get(0))
              + " is total of TABLE."
              + ResultNames.words(claim.last()));
    }
    int position = names.column(claim.names().get(0));
    Subject subject = names.tableOrSubject(table);
    String column = ofColumn ? column(subject.table(), claim.last()) : null;
    return new Total(
        position, names.asked().heading(position), subject, column, condition(claim, subject));
  }

  private String column(Table table, List<Identifier> name) {
    Identifier last = name.get(name.size() - 1);
    Column column = found(table, last);
    if (NO_NUMBERS.contains(column.type().family())) {
      throw new ClaimException(
          table.name() + "." + column.name() + " holds no numbers that could be summed up");
    }
    return column.name();
  }

  private Column found(Table table, Identifier last) {
    return table.columns().stream()
        .filter(each -> catalog.dialect().means(last, each.name()))
        .findFirst()
        .orElseThrow(
            () ->
                ResultNames.unknown(
                    "column",
                    List.of(last),
                    table.columns().stream().map(each -> each.name()).toList()));
  }

  private Meaning refers(ReadClaim claim) {
    List<List<Identifier>> columns = claim.names().subList(0, claim.names().size() - 1);
    Table table =
        catalog
            .table(claim.last())
            .orElseThrow(
                () ->
                    ResultNames.unknown(
                        "table",
                        claim.last(),
                        catalog.tables().stream().map(Table::name).toList()));
    Key key =
        table.keys().stream()
            .filter(each -> each.columns().size() == columns.size())
            .findFirst()
            .orElseThrow(
                () ->
                    new ClaimException(
                        table.name() + " has no key of " + Words.count(columns.size(), "column")));
    return new Refers(columns.stream().map(names::column).toList(), table, key, words(columns));
  }

  private Meaning oneOf(ReadClaim claim) {
    int position = names.column(claim.last());
    Expression read = value("(" + claim.rest() + ")", claim.rest());
    List<Expression> values = read instanceof Value.RowValue row ? row.values() : List.of(read);
    values.forEach(value -> requireConstant(value, claim.rest()));
    return EachValue.isOneOf(position, names.asked().heading(position), values);
  }

  private Meaning between(ReadClaim claim) {
    int position = names.column(claim.last());
    Expression read = value("x between " + claim.rest(), claim.rest());
    if (!(read instanceof Condition.Between between)) {
      throw new ClaimException("two values with AND between them are wanted, not " + claim.rest());
    }
    requireConstant(between.low(), claim.rest());
    requireConstant(between.high(), claim.rest());
    return EachValue.isBetween(
        position, names.asked().heading(position), between.low(), between.high());
  }

  private Expression value(String text, String written) {
    try {
      return SqlReader.readCondition(text, catalog.dialect());
    } catch (SyntaxException fault) {
      throw new ClaimException("\"" + written + "\" are no values: " + fault.getMessage());
    }
  }

  private static void requireConstant(Expression value, String written) {
    boolean constant =
        value
            .preorder()
            .allMatch(
                node ->
                    node instanceof Value.Literal
                        || node instanceof Value.Signed
                        || node instanceof Value.Cast
                        || node instanceof TypeName);
    if (!constant) {
      throw new ClaimException(
          "values are wanted, texts in single quotes and numbers, not " + written);
    }
  }

  private static String words(List<List<Identifier>> names) {
    return Words.list(names.stream().map(ResultNames::words).toList());
  }
}
