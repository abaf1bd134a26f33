package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Functions;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Members of WITH as queries in FROM, wherever they are named. A recursive one stays: only in WITH
 * can a query name itself.
 */
final class WithToDerived {

  private final Reading reading;
  private final QueryBlock block;

  WithToDerived(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    // The members are those of queries; one block is enough to look at all of them.
    if (!block.equals(reading.resolution().blocks().get(0))) {
      return FormEdits.NONE;
    }
    List<Query> holders =
        reading
            .query()
            .preorder()
            .filter(Query.class::isInstance)
            .map(Query.class::cast)
            .filter(each -> !each.with().isEmpty())
            .toList();
    FormEdits stays = FormEdits.NONE;
    for (Query holder : holders) {
      for (CommonTable member : holder.with()) {
        String refusal = refusal(holder, member, holders);
        if (refusal.isEmpty()) {
          return FormEdits.of(edits(holder, member));
        }
        stays =
            FormEdits.stays(
                "the member " + reading.text(member.name()) + " of WITH stays: " + refusal);
      }
    }
    return stays;
  }

  /** Why it must stay; empty if it need not. */
  private String refusal(Query holder, CommonTable member, List<Query> holders) {
    boolean itself = !named(member.query(), member).isEmpty();
    boolean recursive = holder.recursive() || reading.dialect().has(Rule.WITH_MAY_RECUR);
    if (member.walk() != null || (recursive && itself)) {
      return "it is recursive";
    }
    List<String> others =
        holders.stream()
            .flatMap(each -> each.with().stream())
            .filter(each -> !each.equals(member))
            .map(each -> reading.dialect().key(each.name()))
            .toList();
    if (others.contains(reading.dialect().key(member.name()))) {
      return "another query goes by this name too";
    }
    List<CommonTable> before = holder.with().subList(0, holder.with().indexOf(member));
    List<String> visible = before.stream().map(each -> reading.dialect().key(each.name())).toList();
    boolean hidden =
        tables(member.query())
            .map(each -> reading.dialect().key(each.last()))
            .anyMatch(key -> others.contains(key) && !visible.contains(key));
    if (hidden) {
      return "a table that it names goes by the name of another query elsewhere";
    }
    List<FromItem.TableName> uses = named(holder, member);
    if (uses.stream().anyMatch(each -> each.sample() != null || each.only())) {
      return "only a part of its rows is taken where it is named";
    }
    boolean chance =
        member
            .query()
            .preorder()
            .anyMatch(
                node ->
                    (node instanceof Call.FunctionCall call && Functions.isOfChance(call.key()))
                        || (node instanceof FromItem.TableName table && table.sample() != null));
    if (chance && uses.size() > 1) {
      return "it gives other rows each time, and is named more than once";
    }
    return member.columns().isEmpty() || labels(member).isPresent()
        ? ""
        : "its columns get their names in WITH, and not all can get them in SELECT";
  }

  private static Stream<FromItem.TableName> tables(Query query) {
    return query
        .preorder()
        .filter(FromItem.TableName.class::isInstance)
        .map(FromItem.TableName.class::cast)
        .filter(each -> each.name().size() == 1);
  }

  /** Where it is named within a query, but not in its own. */
  private List<FromItem.TableName> named(Query within, CommonTable member) {
    String key = reading.dialect().key(member.name());
    return tables(within)
        .filter(each -> reading.dialect().key(each.last()).equals(key))
        .filter(each -> within.equals(member.query()) || !member.span().contains(each.span()))
        .toList();
  }

  private List<Edit> edits(Query holder, CommonTable member) {
    List<Edit> labels = labels(member).orElse(List.of());
    String query = "(" + reading.edited(member.query(), labels) + ")";
    List<Edit> edits = new ArrayList<>();
    for (FromItem.TableName use : named(holder, member)) {
      String name = use.alias() == null ? " " + reading.text(use.last()) : "";
      edits.add(new Edit(use.last().span(), query + name));
    }
    edits.addAll(without(holder, member));
    return edits;
  }

  /** The labels that give the columns the names that WITH gives them; empty if it cannot be. */
  private Optional<List<Edit>> labels(CommonTable member) {
    if (member.columns().isEmpty()) {
      return Optional.of(List.of());
    }
    List<String> names = member.columns().stream().map(reading::text).toList();
    return reading.resolution().blocks().stream()
        .filter(each -> member.query().span().contains(each.query().span()))
        .findFirst()
        .flatMap(each -> Labels.given(each, names, reading.edits(each)));
  }

  /** Takes the member out of WITH, or the whole WITH; comments stay. */
  private List<Edit> without(Query holder, CommonTable member) {
    List<CommonTable> all = holder.with();
    int at = all.indexOf(member);
    Span gone;
    if (all.size() == 1) {
      gone = new Span(holder.span().start(), holder.body().span().start());
    } else if (at == 0) {
      gone = new Span(member.span().start(), all.get(1).span().start());
    } else {
      gone = new Span(all.get(at - 1).span().end(), member.span().end());
    }
    Span own = member.query().span();
    List<String> comments = new ArrayList<>();
    for (Span part :
        List.of(new Span(gone.start(), own.start()), new Span(own.end(), gone.end()))) {
      comments.addAll(new LexedText(reading.source(), part, reading.dialect()).comments());
    }
    String kept = comments.isEmpty() ? "" : String.join("\n", comments) + "\n";
    return List.of(new Edit(gone, kept));
  }
}
