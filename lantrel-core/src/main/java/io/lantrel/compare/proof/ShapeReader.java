package io.lantrel.compare.proof;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.compare.proof.Joined.Branch;
import io.lantrel.compare.proof.Joined.Member;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Reads the shape of a query whose names are resolved. */
final class ShapeReader {

  /** Types of which two values that are equal cannot be told apart. */
  private static final Set<TypeFamily> EXACT =
      EnumSet.of(TypeFamily.INTEGER, TypeFamily.DATE, TypeFamily.TIMESTAMP, TypeFamily.TRUTH);

  private final Map<QueryBody, QueryBlock> blocks = new IdentityHashMap<>();
  private final Map<TableUse, Integer> numbers = new IdentityHashMap<>();

  /** What stands for the columns of a query in FROM whose rows are joined as its own. */
  private final Map<TableUse, List<Term>> opened = new IdentityHashMap<>();

  private int next;

  private ShapeReader(Resolution resolution, int firstNumber) {
    this.next = firstNumber;
    resolution.blocks().forEach(block -> blocks.put(block.select(), block));
  }

  /**
   * @param firstNumber from which on table uses are numbered
   * @throws NoProof if something in it is not known well enough
   */
  static Shape read(Resolution resolution, int firstNumber) throws NoProof {
    return new ShapeReader(resolution, firstNumber).query(resolution.result().query());
  }

  // ---- queries ----

  /** The shape of a query, also one within an expression. */
  Shape query(Query query) throws NoProof {
    if (query.limit() != null) {
      throw new NoProof("LIMIT");
    }
    return body(query.body());
  }

  private Shape body(QueryBody body) throws NoProof {
    if (body instanceof QueryBody.Select) {
      QueryBlock block = blocks.get(body);
      if (block == null) {
        throw new NoProof("a query that was not resolved");
      }
      return block(block);
    }
    if (body instanceof QueryBody.Nested nested) {
      return query(nested.query());
    }
    if (body instanceof QueryBody.SetOperation operation && operation.matching() == null) {
      List<Shape> parts = new ArrayList<>();
      for (QueryBody part : operation.parts()) {
        parts.add(body(part));
      }
      return new Shape.Together(
          operation.operator() + (operation.all() ? " ALL" : ""),
          operation.operator() != QueryBody.SetOperator.EXCEPT,
          parts);
    }
    throw new NoProof("rows that come from no table");
  }

  private Shape.Block block(QueryBlock block) throws NoProof {
    QueryBody.Select select = block.select();
    if (!select.distinctOn().isEmpty()
        || !select.windows().isEmpty()
        || select.qualify() != null
        || block.isRecursive()
        || !block.hasAllOutputs()) {
      throw new NoProof("a query block of which not enough is known");
    }
    Joined rows = select.from() == null ? new Joined() : from(select.from(), block);
    TermReader terms = new TermReader(this, block);
    for (Conjunct conjunct : block.conjuncts()) {
      if (conjunct.origin() == Conjunct.Origin.WHERE) {
        rows.conditions.addAll(terms.conditions(conjunct.condition()));
      }
    }
    List<Term> groups = new ArrayList<>();
    for (Expression each : select.groupBy().isEmpty() ? List.<Expression>of() : block.grouping()) {
      groups.add(terms.value(each));
    }
    List<Term> having = select.having() == null ? List.of() : terms.conditions(select.having());
    List<Term> outputs = new ArrayList<>();
    for (OutputColumn output : block.outputs()) {
      outputs.add(terms.value(output.value()));
    }
    return new Shape.Block(rows, block.isGrouped(), groups, having, select.distinct(), outputs);
  }

  // ---- FROM ----

  private Joined from(FromItem item, QueryBlock block) throws NoProof {
    return item instanceof FromItem.Join join ? join(join, block) : leaf(item, block);
  }

  private Joined join(FromItem.Join join, QueryBlock block) throws NoProof {
    Map<FromItem, JoinStep> steps = new IdentityHashMap<>();
    block.writtenSteps().forEach(each -> steps.put(each.join(), each));
    JoinStep step = steps.get(join);
    if (step == null) {
      throw new NoProof("a join that was not resolved");
    }
    if (join.way() != FromItem.Way.BY_CONDITION) {
      throw new NoProof("a join that is not by its condition alone");
    }
    Joined left = from(join.left(), block);
    Joined right = from(join.right(), block);
    List<Term> conditions = new ArrayList<>();
    for (Conjunct conjunct : step.conjuncts()) {
      if (conjunct.origin() != Conjunct.Origin.WHERE) {
        conditions.addAll(conditions(conjunct, block));
      } else if (step.kind().isOuter()) {
        throw new NoProof("an outer join by (+)");
      }
    }
    return switch (step.kind()) {
      case COMMA, CROSS, INNER -> together(left, right, conditions);
      case LEFT -> kept(left, right, conditions);
      case RIGHT -> kept(right, left, conditions);
      case FULL -> throw new NoProof(JoinKind.FULL.words());
    };
  }

  private List<Term> conditions(Conjunct conjunct, QueryBlock block) throws NoProof {
    Optional<Conjunct.Equated> equated = conjunct.equality();
    if (conjunct.origin() != Conjunct.Origin.ON && equated.isPresent()) {
      return List.of(
          Term.of(Term.EQUAL, column(equated.get().left()), column(equated.get().right())));
    }
    return new TermReader(this, block).conditions(conjunct.condition());
  }

  private static Joined together(Joined left, Joined right, List<Term> conditions) {
    Joined both = new Joined();
    both.add(left);
    both.add(right);
    both.conditions.addAll(conditions);
    return both;
  }

  private static Joined kept(Joined kept, Joined optional, List<Term> conditions) {
    kept.branches.add(new Branch(optional, List.copyOf(conditions)));
    return kept;
  }

  private Joined leaf(FromItem item, QueryBlock block) throws NoProof {
    TableUse use = block.use(item).orElseThrow(() -> new NoProof("what FROM names is not known"));
    if (use.isSampled()
        || use.isDependent()
        || !use.isKnown()
        || (item instanceof FromItem.TableName name && name.only())) {
      throw new NoProof("the rows of " + use.name());
    }
    Joined rows = new Joined();
    if (use.table().isPresent()) {
      rows.members.add(new Member(number(use), use.table().get(), null));
      return rows;
    }
    Optional<ResolvedQuery> behind = use.result();
    if (behind.isEmpty() || behind.get().isOnlyStart()) {
      throw new NoProof("the rows of " + use.name());
    }
    Shape shape = query(behind.get().query());
    if (shape instanceof Shape.Block plain
        && !plain.grouped()
        && !plain.distinct()
        && plain.outputs().stream().allMatch(Term::isColumn)
        && !plain.rows().members.isEmpty()) {
      opened.put(use, plain.outputs());
      return plain.rows();
    }
    rows.members.add(new Member(number(use), null, shape));
    return rows;
  }

  private int number(TableUse use) {
    numbers.put(use, next);
    return next++;
  }

  // ---- columns ----

  Term column(UseColumn column) throws NoProof {
    List<Term> behind = opened.get(column.use());
    if (behind != null) {
      return behind.get(column.position());
    }
    Integer number = numbers.get(column.use());
    if (number == null) {
      throw new NoProof("a column of " + column.use().name());
    }
    return Term.column(number, column.position(), EXACT.contains(column.type().family()));
  }

  Term name(Value.ColumnName name, QueryBlock block) throws NoProof {
    Binding binding = block.binding(name);
    if (binding instanceof Binding.ToColumn bound) {
      return column(bound.column());
    }
    if (binding instanceof Binding.ToOutput label) {
      return new TermReader(this, block).value(label.output().value());
    }
    if (binding instanceof Binding.Opaque && name.qualifier().isEmpty()) {
      return labelled(name, block);
    }
    throw new NoProof("the name " + name.name().text());
  }

  /** A name that could be a label or a column, where both mean one column. */
  private Term labelled(Value.ColumnName name, QueryBlock block) throws NoProof {
    Dialect dialect = block.dialect();
    Set<UseColumn> meant = new HashSet<>();
    for (TableUse use : block.uses()) {
      use.columns().stream()
          .filter(column -> dialect.means(name.name(), column.name()))
          .forEach(meant::add);
    }
    for (OutputColumn output : block.outputs()) {
      if (dialect.means(name.name(), output.name())) {
        Optional<UseColumn> shown = block.column(output.value());
        if (shown.isPresent() && meant.equals(Set.of(shown.get()))) {
          return column(shown.get());
        }
      }
    }
    throw new NoProof("the name " + name.name().text());
  }
}
