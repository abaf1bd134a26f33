package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.tree.CreateTable;
import io.lantrel.sql.tree.CreateTable.ColumnDefinition;
import io.lantrel.sql.tree.CreateTable.Demand;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SchemaStatement;
import io.lantrel.sql.tree.SchemaStatement.ChangeTable;
import io.lantrel.sql.tree.SchemaStatement.CreateView;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import io.lantrel.sql.tree.SchemaStatement.Skipped;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.antlr.v4.runtime.Token;

/**
 * Reads schema files as people and dumps write them. It looks for tables, columns, keys and
 * references, and passes over everything else: products add clauses without end to CREATE TABLE.
 */
public final class SchemaReader extends TokenWalk {

  /** Rows between COPY and its end, psql's own lines, and what stands under another delimiter. */
  private static final Pattern NO_SQL =
      Pattern.compile(
          "(?ims)^COPY\\b[^;]*\\bFROM\\s+stdin[^;]*;.*?^\\\\\\.\\s*?$"
              + "|^\\\\[^\\r\\n]*$"
              + "|^DELIMITER\\s+(?!;)(\\S+).*?^DELIMITER\\s+;\\s*?$");

  private static final Set<String> HARMLESS =
      Set.of(
          "SET",
          "COMMENT",
          "GRANT",
          "REVOKE",
          "ANALYZE",
          "VACUUM",
          "USE",
          "LOCK",
          "UNLOCK",
          "BEGIN",
          "START",
          "COMMIT",
          "PRAGMA",
          "COPY",
          "SELECT",
          "CREATE INDEX",
          "CREATE SCHEMA",
          "CREATE DATABASE",
          "CREATE SEQUENCE",
          "ALTER SEQUENCE",
          "DROP TABLE",
          "DROP VIEW",
          "DROP INDEX",
          "DROP SCHEMA",
          "DROP DATABASE");

  private static final Set<String> CONSTRAINTS = Set.of("PRIMARY", "UNIQUE", "FOREIGN", "CHECK");

  private SchemaReader(SourceText source, Offsets offsets, Dialect dialect, List<Token> tokens) {
    super(source, offsets, dialect, tokens);
  }

  /**
   * The statements of a schema file, in order.
   *
   * @throws SyntaxException at the first CREATE TABLE that cannot be read
   */
  public static List<SchemaStatement> read(SourceText source, Dialect dialect) {
    SourceText sql = new SourceText(RunComments.opened(withoutRows(source.text()), dialect));
    Offsets offsets = Offsets.of(sql.text());
    return Tokens.statements(sql, dialect).stream()
        .map(tokens -> new SchemaReader(sql, offsets, dialect, tokens).statement())
        .toList();
  }

  private static String withoutRows(String text) {
    Matcher matcher = NO_SQL.matcher(text);
    StringBuilder sql = new StringBuilder(text);
    while (matcher.find()) {
      Blanks.put(sql, matcher.start(), matcher.end());
    }
    return sql.toString();
  }

  private SchemaStatement statement() {
    if (isWord("CREATE")) {
      return create();
    }
    if (isWord("ALTER") && word(1).equals("TABLE")) {
      return alterTable();
    }
    return isWord("INSERT") || isWord("REPLACE") ? insert() : skipped();
  }

  private Skipped skipped() {
    String first = word(-at);
    String both = (first + " " + (tokens.size() > 1 ? word(1 - at) : "")).strip();
    boolean two = Set.of("CREATE", "ALTER", "DROP").contains(first);
    boolean harmless = HARMLESS.contains(first) || HARMLESS.contains(both);
    return new Skipped(span, two ? both : first, harmless);
  }

  private SchemaStatement create() {
    for (int i = 1; i < tokens.size() && tokens.get(i).getType() != SqlLexer.LEFT_PAREN; i++) {
      String word = word(i);
      if (word.equals("TABLE")) {
        at = i + 1;
        return createTable();
      }
      if (word.equals("VIEW")) {
        at = i + 1;
        return createView();
      }
      if (word.equals("INDEX")) {
        at = i + 1;
        return word(1 - at).equals("UNIQUE") ? uniqueIndex() : skipped();
      }
      if (Set.of("FUNCTION", "PROCEDURE", "TRIGGER", "EVENT").contains(word)) {
        return new Skipped(span, "CREATE " + word, HARMLESS.contains("CREATE " + word));
      }
      if (word.equals("AS")) {
        return skipped();
      }
    }
    return skipped();
  }

  // ---- CREATE TABLE ----

  private SchemaStatement createTable() {
    boolean elsewhere =
        tokens.stream()
            .takeWhile(token -> token.getType() != SqlLexer.TABLE)
            .anyMatch(SchemaReader::isElsewhere);
    skipWords("IF", "NOT", "EXISTS");
    List<Identifier> name = name();
    List<List<Identifier>> like = new ArrayList<>();
    if (takeWord("PARTITION") && takeWord("OF")) {
      like.add(name());
      return new CreateTable(span, name, List.of(), List.of(), like);
    }
    if (elsewhere) {
      return new CreateView(span, name, List.of(), null);
    }
    if (!is(SqlLexer.LEFT_PAREN)) {
      int as = find("AS", "SELECT", "WITH", "VALUES", "TABLE", "(");
      return as < 0 ? skippedTable() : asView(name, List.of(), as);
    }
    int query = find("AS", "SELECT", "WITH", "VALUES");
    if (type(1) == SqlLexer.SELECT || type(1) == SqlLexer.WITH) {
      return asView(name, List.of(), at);
    }
    expect(SqlLexer.LEFT_PAREN, "(");
    List<ColumnDefinition> columns = new ArrayList<>();
    List<TableConstraint> constraints = new ArrayList<>();
    if (!is(SqlLexer.RIGHT_PAREN)) {
      do {
        element(columns, constraints, like);
      } while (take(SqlLexer.COMMA));
    }
    expect(SqlLexer.RIGHT_PAREN, ", or )");
    if (takeWord("INHERITS") && take(SqlLexer.LEFT_PAREN)) {
      do {
        like.add(name());
      } while (take(SqlLexer.COMMA));
    }
    return query > at
        ? new CreateView(span, name, List.of(), null)
        : new CreateTable(span, name, columns, constraints, like);
  }

  /** Tables whose columns stand in another place, as in SQLite's modules. */
  private static boolean isElsewhere(Token token) {
    return Set.of("VIRTUAL", "LINKED").contains(token.getText().toUpperCase(Locale.ROOT));
  }

  /** Its columns are not known, but it is there. */
  private SchemaStatement skippedTable() {
    if (at >= tokens.size()) {
      throw wrong("a list of columns in parentheses");
    }
    List<Identifier> name = new ArrayList<>();
    at = 0;
    while (!takeWord("TABLE")) {
      at++;
    }
    skipWords("IF", "NOT", "EXISTS");
    name.addAll(name());
    return new CreateView(span, name, List.of(), null);
  }

  private void element(
      List<ColumnDefinition> columns,
      List<TableConstraint> constraints,
      List<List<Identifier>> like) {
    if (takeWord("LIKE")) {
      like.add(name());
      skipToEndOfElement();
    } else if (isConstraint()) {
      constraints.addAll(constraint());
      skipToEndOfElement();
    } else {
      columns.add(column());
    }
  }

  private boolean isConstraint() {
    boolean listed = type(1) == SqlLexer.LEFT_PAREN;
    boolean named = type(2) == SqlLexer.LEFT_PAREN && type(3) != SqlLexer.NUMBER;
    return switch (word(0)) {
      case "FULLTEXT", "SPATIAL" ->
          listed || named || word(1).equals("KEY") || word(1).equals("INDEX");
      case "EXCLUDE" -> listed || word(1).equals("USING");
      case "PERIOD" -> word(1).equals("FOR");
      case "CONSTRAINT" ->
          tokens.get(at).getType() != SqlLexer.QUOTED_NAME
              && (listed || named || words(1) > 1 || type(2) == SqlLexer.DOT);
      case "PRIMARY", "FOREIGN" -> word(1).equals("KEY");
      case "CHECK" -> listed;
      case "UNIQUE" -> listed || named || Set.of("KEY", "INDEX", "NULLS").contains(word(1));
      case "KEY", "INDEX" -> listed || named;
      default -> false;
    };
  }

  /** How many tokens from here on are words. */
  private int words(int ahead) {
    int count = 0;
    while (at + ahead + count < tokens.size() && isNameAt(at + ahead + count)) {
      count++;
    }
    return count;
  }

  private ColumnDefinition column() {
    int first = at;
    Identifier name = identifier("the name of a column");
    List<String> type = new ArrayList<>();
    int typeStart = at;
    while (!atEndOfElement() && !beginsColumnConstraint()) {
      if (is(SqlLexer.LEFT_PAREN)) {
        type.addAll(balanced());
      } else {
        type.add(tokens.get(at++).getText());
      }
    }
    Span typeSpan =
        type.isEmpty()
            ? new Span(name.span().end(), name.span().end())
            : offsets.span(tokens.get(typeStart), tokens.get(at - 1));
    String words = ExpressionBuilder.typeWords(type);
    boolean serial = words.toLowerCase(Locale.ROOT).matches("(big|small)?serial[248]?");
    boolean notNull = serial;
    List<TableConstraint> constraints = new ArrayList<>();
    while (!atEndOfElement()) {
      notNull |= columnConstraint(name, constraints);
    }
    Span own = offsets.span(tokens.get(first), tokens.get(at - 1));
    return new ColumnDefinition(own, name, new TypeName(typeSpan, words), notNull, constraints);
  }

  private boolean beginsColumnConstraint() {
    return switch (word(0)) {
      case "NOT",
          "NULL",
          "PRIMARY",
          "UNIQUE",
          "REFERENCES",
          "CHECK",
          "DEFAULT",
          "CONSTRAINT",
          "COLLATE",
          "GENERATED",
          "AUTO_INCREMENT",
          "AUTOINCREMENT",
          "IDENTITY",
          "COMMENT",
          "ON",
          "AS",
          "KEY",
          "INVISIBLE",
          "VISIBLE",
          "STORAGE",
          "COMPRESSION",
          "CHARSET" ->
          tokens.get(at).getType() != SqlLexer.QUOTED_NAME;
      case "CHARACTER" -> word(1).equals("SET");
      default -> false;
    };
  }

  /** Reads one, whichever it is; true if it forbids NULL. */
  private boolean columnConstraint(Identifier column, List<TableConstraint> constraints) {
    int first = at;
    switch (word(0)) {
      case "NOT" -> {
        at++;
        return takeWord("NULL");
      }
      case "PRIMARY" -> {
        at++;
        takeWord("KEY");
        constraints.add(key(first, Demand.PRIMARY_KEY, List.of(column)));
      }
      case "UNIQUE" -> {
        at++;
        takeWord("KEY");
        constraints.add(key(first, Demand.UNIQUE, List.of(column)));
      }
      case "REFERENCES" -> constraints.add(references(first, List.of(column)));
      case "DEFAULT" -> {
        at++;
        if (take(SqlLexer.PLUS) || take(SqlLexer.MINUS) || !is(SqlLexer.LEFT_PAREN)) {
          at++;
        }
      }
      case "IDENTITY" -> {
        at++;
        return true;
      }
      default -> skipOne();
    }
    return false;
  }

  // ---- constraints ----

  private List<TableConstraint> constraint() {
    int first = at;
    if (takeWord("CONSTRAINT") && !CONSTRAINTS.contains(word(0))) {
      at++;
      while (take(SqlLexer.DOT)) {
        at++;
      }
    }
    if (takeWord("PRIMARY")) {
      takeWord("KEY");
      return keyOver(first, Demand.PRIMARY_KEY);
    }
    if (takeWord("UNIQUE")) {
      return keyOver(first, Demand.UNIQUE);
    }
    if (!takeWord("FOREIGN")) {
      return List.of();
    }
    takeWord("KEY");
    if (!is(SqlLexer.LEFT_PAREN) && at < tokens.size()) {
      at++;
    }
    List<Identifier> columns = columnList();
    return isWord("REFERENCES") ? List.of(references(first, columns)) : List.of();
  }

  /** A key over plain columns; one over an expression says nothing about columns. */
  private List<TableConstraint> keyOver(int first, Demand demand) {
    while (!atEndOfElement() && !is(SqlLexer.LEFT_PAREN)) {
      at++;
    }
    if (!is(SqlLexer.LEFT_PAREN)) {
      return List.of();
    }
    List<Identifier> columns = columnList();
    return columns.isEmpty() ? List.of() : List.of(key(first, demand, columns));
  }

  private TableConstraint key(int first, Demand demand, List<Identifier> columns) {
    return new TableConstraint(spanFrom(first), demand, columns, null, List.of());
  }

  private TableConstraint references(int first, List<Identifier> columns) {
    takeWord("REFERENCES");
    List<Identifier> target = name();
    List<Identifier> targetColumns = is(SqlLexer.LEFT_PAREN) ? columnList() : List.of();
    return new TableConstraint(spanFrom(first), Demand.FOREIGN_KEY, columns, target, targetColumns);
  }

  /** Names in parentheses, each perhaps with a length or an order; empty if one is no name. */
  private List<Identifier> columnList() {
    expect(SqlLexer.LEFT_PAREN, "(");
    List<Identifier> columns = new ArrayList<>();
    boolean plain = true;
    do {
      plain &= isNameAt(at);
      columns.add(identifier("the name of a column"));
      plain &= !is(SqlLexer.LEFT_PAREN) || type(1) == SqlLexer.NUMBER;
      while (at < tokens.size() && !is(SqlLexer.COMMA) && !is(SqlLexer.RIGHT_PAREN)) {
        skipOne();
      }
    } while (take(SqlLexer.COMMA));
    expect(SqlLexer.RIGHT_PAREN, ", or )");
    return plain ? columns : List.of();
  }

  // ---- views, indexes, changes, rows ----

  private SchemaStatement createView() {
    skipWords("IF", "NOT", "EXISTS");
    List<Identifier> name = name();
    List<Identifier> columns = is(SqlLexer.LEFT_PAREN) ? columnList() : List.of();
    int as = find("AS", "SELECT", "WITH", "VALUES", "(", "FROM", "TABLE");
    return as < 0 ? skipped() : asView(name, columns, as);
  }

  private SchemaStatement asView(List<Identifier> name, List<Identifier> columns, int as) {
    List<Token> query = new ArrayList<>(tokens.subList(as, tokens.size()));
    for (String tail : List.of("CHECK OPTION", "READ ONLY", "NO DATA", "DATA")) {
      int behind = query.size() - tail.split(" ").length;
      String end =
          query.stream()
              .skip(Math.max(0, behind))
              .map(Token::getText)
              .collect(Collectors.joining(" "));
      int with = lastWith(query);
      if (end.equalsIgnoreCase(tail) && with > 0 && with >= behind - 2) {
        query = new ArrayList<>(query.subList(0, with));
      }
    }
    SqlReader.Attempt attempt = SqlReader.parse(query, source, offsets, dialect);
    return new CreateView(span, name, columns, attempt.problem() == null ? attempt.value() : null);
  }

  private static int lastWith(List<Token> tokens) {
    for (int i = tokens.size() - 1; i > 0; i--) {
      if (tokens.get(i).getType() == SqlLexer.WITH) {
        return i;
      }
    }
    return -1;
  }

  private SchemaStatement uniqueIndex() {
    int first = at;
    while (at < tokens.size() && !isWord("ON")) {
      at++;
    }
    if (!takeWord("ON")) {
      return skipped();
    }
    takeWord("ONLY");
    List<Identifier> table = name();
    List<TableConstraint> keys = keyOver(first, Demand.UNIQUE);
    // Over some of the rows it is no key of all.
    return find("WHERE") >= 0 || keys.isEmpty()
        ? skipped()
        : new ChangeTable(span, table, keys, List.of(), List.of());
  }

  private SchemaStatement alterTable() {
    at = 2;
    skipWords("IF", "EXISTS");
    takeWord("ONLY");
    List<Identifier> table = name();
    List<TableConstraint> constraints = new ArrayList<>();
    List<Identifier> notNull = new ArrayList<>();
    List<ColumnDefinition> added = new ArrayList<>();
    boolean understood = true;
    do {
      understood &= change(constraints, notNull, added);
      skipToEndOfElement();
    } while (take(SqlLexer.COMMA));
    boolean none = constraints.isEmpty() && notNull.isEmpty() && added.isEmpty();
    return none
        ? new Skipped(span, "ALTER TABLE", understood)
        : new ChangeTable(span, table, constraints, notNull, added);
  }

  /**
   * One change of ALTER TABLE; false if it may concern columns, keys or references all the same.
   */
  private boolean change(
      List<TableConstraint> constraints, List<Identifier> notNull, List<ColumnDefinition> added) {
    if (takeWord("ADD")) {
      if (isConstraint()) {
        constraints.addAll(constraint());
        return true;
      }
      takeWord("COLUMN");
      skipWords("IF", "NOT", "EXISTS");
      if (take(SqlLexer.LEFT_PAREN)) {
        do {
          element(added, constraints, new ArrayList<>());
        } while (take(SqlLexer.COMMA));
        take(SqlLexer.RIGHT_PAREN);
      } else {
        added.add(column());
      }
      return true;
    }
    if (takeWord("ALTER")) {
      takeWord("COLUMN");
      Identifier column = identifier("the name of a column");
      if (word(0).equals("SET") && word(1).equals("NOT") && word(2).equals("NULL")) {
        notNull.add(column);
      }
      return !word(0).equals("DROP") && !word(0).equals("TYPE");
    }
    return Set.of(
            "OWNER",
            "ENABLE",
            "DISABLE",
            "SET",
            "REPLICA",
            "CLUSTER",
            "VALIDATE",
            "AUTO_INCREMENT",
            "COMMENT",
            "ATTACH")
        .contains(word(0));
  }

  /** A schema file may have come from anybody: what it puts into tables is data, never code. */
  private void constantsOnly(QueryBody.Values values) {
    values.rows().stream()
        .flatMap(row -> row.values().stream())
        .filter(value -> !isConstant(value))
        .findFirst()
        .ifPresent(
            value -> {
              throw new SyntaxException(
                  new SyntaxProblem(
                      value.span(),
                      "INSERT takes constants only here, and "
                          + source.at(value.span())
                          + " is none",
                      List.of()));
            });
  }

  private static boolean isConstant(Expression value) {
    if (value instanceof Value.Literal literal) {
      return !literal.text().startsWith("NEXT ");
    }
    if (value instanceof Value.ColumnName word) {
      return word.qualifier().isEmpty() && word.name().means("default");
    }
    boolean holdsConstants =
        value instanceof Value.Signed
            || value instanceof Value.Cast
            || value instanceof Value.Interval
            || value instanceof Value.ArrayValue
            || value instanceof Value.RowValue
            || value instanceof Value.StructValue;
    return holdsConstants
        && value.children().stream()
            .filter(Expression.class::isInstance)
            .allMatch(each -> isConstant((Expression) each));
  }

  private SchemaStatement insert() {
    int values = -1;
    for (int i = 0; i < tokens.size() && values < 0; i++) {
      values = tokens.get(i).getType() == SqlLexer.VALUES ? i : -1;
    }
    int into = find("INTO");
    if (values < 0 || into < 0) {
      return skipped();
    }
    at = into + 1;
    List<Identifier> table = name();
    List<Identifier> columns = is(SqlLexer.LEFT_PAREN) ? columnList() : List.of();
    SqlReader.Attempt attempt =
        SqlReader.parse(tokens.subList(values, tokens.size()), source, offsets, dialect);
    Query query = attempt.value();
    if (query != null && query.body() instanceof QueryBody.Values rows) {
      constantsOnly(rows);
    }
    return query != null && query.body() instanceof QueryBody.Values rows
        ? new InsertRows(span, table, columns, rows)
        : skipped();
  }
}
