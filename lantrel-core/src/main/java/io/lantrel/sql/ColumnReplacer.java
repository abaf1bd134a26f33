package io.lantrel.sql;

import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Expression.And;
import io.lantrel.sql.tree.Expression.Arithmetic;
import io.lantrel.sql.tree.Expression.Between;
import io.lantrel.sql.tree.Expression.Case;
import io.lantrel.sql.tree.Expression.Cast;
import io.lantrel.sql.tree.Expression.ColumnName;
import io.lantrel.sql.tree.Expression.Comparison;
import io.lantrel.sql.tree.Expression.Exists;
import io.lantrel.sql.tree.Expression.Extract;
import io.lantrel.sql.tree.Expression.FunctionCall;
import io.lantrel.sql.tree.Expression.InList;
import io.lantrel.sql.tree.Expression.InQuery;
import io.lantrel.sql.tree.Expression.IsDistinct;
import io.lantrel.sql.tree.Expression.IsNull;
import io.lantrel.sql.tree.Expression.IsTruth;
import io.lantrel.sql.tree.Expression.Like;
import io.lantrel.sql.tree.Expression.Literal;
import io.lantrel.sql.tree.Expression.Not;
import io.lantrel.sql.tree.Expression.Or;
import io.lantrel.sql.tree.Expression.RowNumber;
import io.lantrel.sql.tree.Expression.ScalarQuery;
import io.lantrel.sql.tree.Expression.Signed;
import io.lantrel.sql.tree.Expression.When;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Copies a tree with other expressions in the place of its column names, in subqueries too. Probes
 * ask about the user's own conditions over rows that carry other column names.
 */
public final class ColumnReplacer {

  private final Function<ColumnName, Expression> replacement;
  private final OfExpression visitor = new OfExpression();

  /**
   * @param replacement what stands for each column name; it returns the name itself to keep it
   */
  public ColumnReplacer(Function<ColumnName, Expression> replacement) {
    this.replacement = replacement;
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
        query.with().stream()
            .map(each -> new CommonTable(each.span(), each.name(), apply(each.query())))
            .toList(),
        query.body().accept(new OfBody()),
        query.orderBy().stream()
            .map(
                each ->
                    new OrderItem(
                        each.span(), apply(each.value()), each.descending(), each.nullsFirst()))
            .toList(),
        limit == null
            ? null
            : new Limit(limit.span(), applyIfPresent(limit.count()), applyIfPresent(limit.skip())));
  }

  private final class OfBody implements QueryBody.Visitor<QueryBody> {
    @Override
    public QueryBody select(QueryBody.Select select) {
      FromItem from = select.from();
      return new QueryBody.Select(
          select.span(),
          select.distinct(),
          select.items().stream().map(this::item).toList(),
          from == null ? null : from.accept(new OfItem()),
          applyIfPresent(select.where()),
          all(select.groupBy()),
          applyIfPresent(select.having()));
    }

    private SelectItem item(SelectItem item) {
      return item instanceof SelectItem.Output output
          ? new SelectItem.Output(output.span(), apply(output.value()), output.label())
          : item;
    }

    @Override
    public QueryBody unionAll(QueryBody.UnionAll union) {
      return new QueryBody.UnionAll(
          union.span(), union.parts().stream().map(part -> part.accept(this)).toList());
    }
  }

  private final class OfItem implements FromItem.Visitor<FromItem> {
    @Override
    public FromItem table(FromItem.TableName table) {
      return table;
    }

    @Override
    public FromItem derived(FromItem.DerivedTable derived) {
      return new FromItem.DerivedTable(derived.span(), apply(derived.query()), derived.alias());
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
          join.inParentheses());
    }
  }

  private final class OfExpression implements Expression.Visitor<Expression> {
    @Override
    public Expression columnName(ColumnName column) {
      return replacement.apply(column);
    }

    @Override
    public Expression literal(Literal literal) {
      return literal;
    }

    @Override
    public Expression arithmetic(Arithmetic a) {
      return new Arithmetic(a.span(), a.operator(), apply(a.left()), apply(a.right()));
    }

    @Override
    public Expression signed(Signed signed) {
      return new Signed(signed.span(), signed.minus(), apply(signed.value()));
    }

    @Override
    public Expression comparison(Comparison c) {
      return new Comparison(c.span(), c.operator(), apply(c.left()), apply(c.right()));
    }

    @Override
    public Expression and(And and) {
      return new And(and.span(), all(and.terms()));
    }

    @Override
    public Expression or(Or or) {
      return new Or(or.span(), all(or.terms()));
    }

    @Override
    public Expression not(Not not) {
      return new Not(not.span(), apply(not.value()));
    }

    @Override
    public Expression isNull(IsNull test) {
      return new IsNull(test.span(), apply(test.value()), test.negated());
    }

    @Override
    public Expression isTruth(IsTruth test) {
      return new IsTruth(test.span(), apply(test.value()), test.truth(), test.negated());
    }

    @Override
    public Expression isDistinct(IsDistinct d) {
      return new IsDistinct(d.span(), apply(d.left()), apply(d.right()), d.negated());
    }

    @Override
    public Expression between(Between b) {
      return new Between(b.span(), apply(b.value()), apply(b.low()), apply(b.high()), b.negated());
    }

    @Override
    public Expression inList(InList in) {
      return new InList(in.span(), apply(in.value()), all(in.list()), in.negated());
    }

    @Override
    public Expression inQuery(InQuery in) {
      return new InQuery(
          in.span(), apply(in.value()), ColumnReplacer.this.apply(in.query()), in.negated());
    }

    @Override
    public Expression like(Like like) {
      return new Like(
          like.span(),
          apply(like.value()),
          like.ignoringCase(),
          apply(like.pattern()),
          applyIfPresent(like.escape()),
          like.negated());
    }

    @Override
    public Expression exists(Exists exists) {
      return new Exists(exists.span(), ColumnReplacer.this.apply(exists.query()));
    }

    @Override
    public Expression scalarQuery(ScalarQuery scalar) {
      return new ScalarQuery(scalar.span(), ColumnReplacer.this.apply(scalar.query()));
    }

    @Override
    public Expression caseOf(Case node) {
      return new Case(
          node.span(),
          applyIfPresent(node.operand()),
          node.whens().stream()
              .map(each -> new When(each.span(), apply(each.when()), apply(each.then())))
              .toList(),
          applyIfPresent(node.otherwise()));
    }

    @Override
    public Expression cast(Cast cast) {
      return new Cast(cast.span(), apply(cast.value()), cast.type());
    }

    @Override
    public Expression extract(Extract extract) {
      return new Extract(extract.span(), extract.field(), apply(extract.value()));
    }

    @Override
    public Expression functionCall(FunctionCall call) {
      return new FunctionCall(
          call.span(),
          call.name(),
          call.star(),
          call.distinct(),
          all(call.arguments()),
          applyIfPresent(call.filter()));
    }

    @Override
    public Expression rowNumber(RowNumber rowNumber) {
      return rowNumber;
    }
  }
}
