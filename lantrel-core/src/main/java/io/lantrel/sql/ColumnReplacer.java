package io.lantrel.sql;

import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.sql.tree.Window;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * Copies a tree with other expressions in the place of its column names, in subqueries too. Probes
 * ask about the user's own conditions over rows that carry other column names.
 */
public final class ColumnReplacer {

  private final Function<ColumnName, Expression> replacement;
  private final Function<Value.Parameter, Expression> parameters;
  private final UnaryOperator<FromItem.TableName> tables;
  private final OfExpression visitor = new OfExpression();

  /**
   * @param replacement what stands for each column name; it returns the name itself to keep it
   */
  public ColumnReplacer(Function<ColumnName, Expression> replacement) {
    this(replacement, parameter -> parameter);
  }

  /**
   * The same for parameters too.
   *
   * @param parameters what stands for each parameter; it returns the parameter itself to keep it
   */
  public ColumnReplacer(
      Function<ColumnName, Expression> replacement,
      Function<Value.Parameter, Expression> parameters) {
    this(replacement, parameters, table -> table);
  }

  /**
   * The same for tables in FROM too.
   *
   * @param tables what stands for each table; it returns the table itself to keep it
   */
  public ColumnReplacer(
      Function<ColumnName, Expression> replacement,
      Function<Value.Parameter, Expression> parameters,
      UnaryOperator<FromItem.TableName> tables) {
    this.replacement = replacement;
    this.parameters = parameters;
    this.tables = tables;
  }

  /** The expression with its column names replaced. */
  public Expression apply(Expression expression) {
    return expression.accept(visitor);
  }

  private @Nullable Expression applyIfPresent(@Nullable Expression expression) {
    return expression == null ? null : apply(expression);
  }

  private List<Expression> all(List<Expression> expressions) {
    return expressions.stream().map(this::apply).toList();
  }

  /** The query with its column names replaced. */
  public Query apply(Query query) {
    Limit limit = query.limit();
    return new Query(
        query.span(),
        query.recursive(),
        query.with().stream().map(this::commonTable).toList(),
        query.body().accept(new OfBody()),
        order(query.orderBy()),
        limit == null
            ? null
            : new Limit(
                limit.span(),
                applyIfPresent(limit.count()),
                applyIfPresent(limit.skip()),
                limit.percent(),
                limit.withTies()));
  }

  private CommonTable commonTable(CommonTable table) {
    return new CommonTable(
        table.span(),
        table.name(),
        table.columns(),
        table.materialized(),
        apply(table.query()),
        table.walk(),
        table.added());
  }

  private List<OrderItem> order(List<OrderItem> items) {
    return items.stream()
        .map(
            each ->
                new OrderItem(
                    each.span(), apply(each.value()), each.descending(), each.nullsFirst()))
        .toList();
  }

  private Window window(Window window) {
    Window.Frame frame = window.frame();
    return new Window(
        window.span(),
        window.base(),
        window.nameOnly(),
        all(window.partitionBy()),
        order(window.orderBy()),
        frame == null
            ? null
            : new Window.Frame(
                frame.span(),
                frame.unit(),
                bound(frame.start()),
                frame.end() == null ? null : bound(frame.end()),
                frame.exclusion()));
  }

  private Window.Bound bound(Window.Bound bound) {
    return new Window.Bound(bound.span(), applyIfPresent(bound.distance()), bound.words());
  }

  private final class OfBody implements QueryBody.Visitor<QueryBody> {
    @Override
    public QueryBody select(QueryBody.Select select) {
      FromItem from = select.from();
      return new QueryBody.Select(
          select.span(),
          select.distinct(),
          all(select.distinctOn()),
          select.items().stream().map(this::item).toList(),
          from == null ? null : from.accept(new OfItem()),
          applyIfPresent(select.where()),
          all(select.groupBy()),
          applyIfPresent(select.having()),
          select.windows().stream()
              .map(each -> new Window.Named(each.span(), each.name(), window(each.window())))
              .toList(),
          applyIfPresent(select.qualify()));
    }

    private SelectItem item(SelectItem item) {
      return item instanceof SelectItem.Output output
          ? output(output)
          : star((SelectItem.AllColumns) item);
    }

    private SelectItem.Output output(SelectItem.Output output) {
      return new SelectItem.Output(output.span(), apply(output.value()), output.label());
    }

    private SelectItem star(SelectItem.AllColumns all) {
      List<SelectItem.Output> replaced = all.replaced().stream().map(this::output).toList();
      return new SelectItem.AllColumns(all.span(), all.qualifier(), all.excluded(), replaced);
    }

    @Override
    public QueryBody setOperation(QueryBody.SetOperation operation) {
      return new QueryBody.SetOperation(
          operation.span(),
          operation.operator(),
          operation.all(),
          operation.matching(),
          operation.parts().stream().map(part -> part.accept(this)).toList());
    }

    @Override
    public QueryBody values(QueryBody.Values values) {
      return new QueryBody.Values(
          values.span(),
          values.rows().stream()
              .map(row -> new Value.RowValue(row.span(), row.word(), all(row.values())))
              .toList());
    }

    @Override
    public QueryBody nested(QueryBody.Nested nested) {
      return new QueryBody.Nested(nested.span(), apply(nested.query()));
    }
  }

  private final class OfItem implements FromItem.Visitor<FromItem> {
    @Override
    public FromItem table(FromItem.TableName table) {
      return tables.apply(table);
    }

    @Override
    public FromItem derived(FromItem.DerivedTable derived) {
      return new FromItem.DerivedTable(
          derived.span(), derived.lateral(), apply(derived.query()), derived.alias());
    }

    @Override
    public FromItem function(FromItem.TableFunction function) {
      return new FromItem.TableFunction(
          function.span(),
          function.lateral(),
          all(function.calls()),
          function.ordinality(),
          function.alias());
    }

    @Override
    public FromItem join(FromItem.Join join) {
      JoinCondition condition = join.condition();
      return new FromItem.Join(
          join.span(),
          join.left().accept(this),
          join.kind(),
          join.natural(),
          join.right().accept(this),
          condition instanceof JoinCondition.On on
              ? new JoinCondition.On(on.span(), apply(on.condition()))
              : condition,
          join.keyword(),
          join.inParentheses(),
          join.alias(),
          join.way());
    }
  }

  private final class OfExpression implements Expression.Visitor<Expression> {
    @Override
    public Expression comparison(Condition.Comparison node) {
      return new Condition.Comparison(
          node.span(), node.operator(), apply(node.left()), apply(node.right()));
    }

    @Override
    public Expression quantified(Condition.Quantified node) {
      return new Condition.Quantified(
          node.span(),
          node.sign(),
          apply(node.value()),
          node.all(),
          node.query() == null ? null : ColumnReplacer.this.apply(node.query()),
          applyIfPresent(node.list()));
    }

    @Override
    public Expression and(Condition.And node) {
      return new Condition.And(node.span(), all(node.terms()));
    }

    @Override
    public Expression or(Condition.Or node) {
      return new Condition.Or(node.span(), all(node.terms()));
    }

    @Override
    public Expression not(Condition.Not node) {
      return new Condition.Not(node.span(), apply(node.value()));
    }

    @Override
    public Expression isNull(Condition.IsNull node) {
      return new Condition.IsNull(node.span(), apply(node.value()), node.negated());
    }

    @Override
    public Expression isTruth(Condition.IsTruth node) {
      return new Condition.IsTruth(node.span(), apply(node.value()), node.truth(), node.negated());
    }

    @Override
    public Expression isDistinct(Condition.IsDistinct node) {
      return new Condition.IsDistinct(
          node.span(), apply(node.left()), apply(node.right()), node.negated());
    }

    @Override
    public Expression between(Condition.Between node) {
      return new Condition.Between(
          node.span(), apply(node.value()), apply(node.low()), apply(node.high()), node.negated());
    }

    @Override
    public Expression inList(Condition.InList node) {
      return new Condition.InList(
          node.span(), apply(node.value()), all(node.list()), node.negated());
    }

    @Override
    public Expression inQuery(Condition.InQuery node) {
      return new Condition.InQuery(
          node.span(),
          apply(node.value()),
          ColumnReplacer.this.apply(node.query()),
          node.negated());
    }

    @Override
    public Expression like(Condition.Like node) {
      return new Condition.Like(
          node.span(),
          apply(node.value()),
          node.how(),
          apply(node.pattern()),
          applyIfPresent(node.escape()),
          node.negated());
    }

    @Override
    public Expression exists(Condition.Exists node) {
      return new Condition.Exists(node.span(), ColumnReplacer.this.apply(node.query()));
    }

    @Override
    public Expression columnName(Value.ColumnName node) {
      return replacement.apply(node);
    }

    /** What stands for a marked column needs no mark: its joins are written out. */
    @Override
    public Expression outerMark(Value.OuterMark node) {
      Expression value = replacement.apply(node.column());
      return value instanceof ColumnName same && same.equals(node.column()) ? node : value;
    }

    @Override
    public Expression wholeRow(Value.WholeRow node) {
      return node;
    }

    @Override
    public Expression literal(Value.Literal node) {
      return node;
    }

    @Override
    public Expression parameter(Value.Parameter node) {
      return parameters.apply(node);
    }

    @Override
    public Expression interval(Value.Interval node) {
      return new Value.Interval(node.span(), apply(node.value()), node.unit());
    }

    @Override
    public Expression arithmetic(Value.Arithmetic node) {
      return new Value.Arithmetic(
          node.span(), node.operator(), apply(node.left()), apply(node.right()));
    }

    @Override
    public Expression signed(Value.Signed node) {
      return new Value.Signed(node.span(), node.minus(), apply(node.value()));
    }

    @Override
    public Expression operation(Value.Operation node) {
      return new Value.Operation(
          node.span(), applyIfPresent(node.left()), node.sign(), applyIfPresent(node.right()));
    }

    @Override
    public Expression collated(Value.Collated node) {
      return new Value.Collated(node.span(), apply(node.value()), node.collation());
    }

    @Override
    public Expression cast(Value.Cast node) {
      return new Value.Cast(node.span(), apply(node.value()), node.type(), node.trying());
    }

    @Override
    public Expression fieldOf(Value.FieldOf node) {
      return new Value.FieldOf(node.span(), apply(node.value()), node.field());
    }

    @Override
    public Expression subscript(Value.Subscript node) {
      return new Value.Subscript(
          node.span(),
          apply(node.value()),
          applyIfPresent(node.low()),
          node.stretch(),
          applyIfPresent(node.high()));
    }

    @Override
    public Expression rowValue(Value.RowValue node) {
      return new Value.RowValue(node.span(), node.word(), all(node.values()));
    }

    @Override
    public Expression arrayValue(Value.ArrayValue node) {
      return new Value.ArrayValue(node.span(), node.word(), all(node.values()));
    }

    @Override
    public Expression structValue(Value.StructValue node) {
      return new Value.StructValue(node.span(), node.word(), all(node.names()), all(node.values()));
    }

    @Override
    public Expression scalarQuery(Value.ScalarQuery node) {
      return new Value.ScalarQuery(node.span(), ColumnReplacer.this.apply(node.query()));
    }

    @Override
    public Expression queryCall(Value.QueryCall node) {
      return new Value.QueryCall(node.span(), node.word(), ColumnReplacer.this.apply(node.query()));
    }

    @Override
    public Expression caseOf(Value.Case node) {
      return new Value.Case(
          node.span(),
          applyIfPresent(node.operand()),
          node.whens().stream()
              .map(each -> new Value.When(each.span(), apply(each.when()), apply(each.then())))
              .toList(),
          applyIfPresent(node.otherwise()));
    }

    @Override
    public Expression functionCall(Call.FunctionCall node) {
      return new Call.FunctionCall(
          node.span(),
          node.name(),
          node.star(),
          node.distinct(),
          all(node.arguments()),
          order(node.orderBy()),
          applyIfPresent(node.separator()),
          order(node.withinGroup()),
          applyIfPresent(node.filter()),
          node.clauses(),
          node.treatment(),
          node.over() == null ? null : window(node.over()));
    }

    @Override
    public Expression wordedCall(Call.WordedCall node) {
      return new Call.WordedCall(node.span(), node.name(), all(node.values()), node.words());
    }

    @Override
    public Expression namedArgument(Call.NamedArgument node) {
      return new Call.NamedArgument(node.span(), node.name(), node.sign(), apply(node.value()));
    }

    @Override
    public Expression lambda(Call.Lambda node) {
      return new Call.Lambda(node.span(), node.names(), apply(node.body()));
    }

    @Override
    public Expression grouping(Call.Grouping node) {
      return new Call.Grouping(node.span(), node.kind(), all(node.items()));
    }
  }
}
