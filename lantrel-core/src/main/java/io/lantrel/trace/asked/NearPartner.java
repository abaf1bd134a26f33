package io.lantrel.trace.asked;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The partner that a row nearly has: it differs in blanks at an end, or in capitals. */
final class NearPartner {

  private final Followed followed;
  private final JoinedRows rows;
  private final JoinStep step;
  private final boolean left;
  private final Conjunct condition;
  private final Asker asker;

  /**
   * @param left whether the row stands on the left of the step
   * @param condition the condition that no partner meets
   */
  NearPartner(Followed followed, JoinStep step, boolean left, Conjunct condition, Asker asker) {
    this.followed = followed;
    this.rows = followed.rows();
    this.step = step;
    this.left = left;
    this.condition = condition;
    this.asker = asker;
  }

  /** In a sentence; empty if there is none, or the condition compares no texts. */
  Optional<String> words() {
    Conjunct.Equated equated = condition.equality().orElse(null);
    if (equated == null) {
      return Optional.empty();
    }
    List<TableUse> own = left ? step.left() : step.right();
    UseColumn mine = own.contains(equated.left().use()) ? equated.left() : equated.right();
    UseColumn theirs = equated.other(mine);
    if (mine.type().family() != TypeFamily.TEXT || theirs.type().family() != TypeFamily.TEXT) {
      return Optional.empty();
    }
    Relation side = rows.side(left ? step.join().left() : step.join().right());
    Relation other = rows.side(left ? step.join().right() : step.join().left());
    Question<List<List<@Nullable String>>> value =
        RowValues.question(
            side,
            List.of(rows.column(side, mine)),
            followed.isMarked(side),
            List.of(mine.type()),
            1);
    List<List<@Nullable String>> found = asker.ask(value);
    if (found.isEmpty() || found.get(0).get(0) == null) {
      return Optional.empty();
    }
    String text = found.get(0).get(0);
    Expression wanted = plain(Value.Literal.string(text));
    List<List<@Nullable String>> near =
        asker.ask(
            RowValues.question(
                other,
                List.of(rows.column(other, theirs)),
                Sql.equal(plain(rows.column(other, theirs)), wanted),
                List.of(theirs.type()),
                1));
    return near.stream()
        .findFirst()
        .map(
            row ->
                "Near it is "
                    + theirs.words()
                    + " '"
                    + row.get(0)
                    + "', which differs from '"
                    + text
                    + "' only in "
                    + (String.valueOf(row.get(0)).strip().equals(text.strip())
                        ? "blanks."
                        : String.valueOf(row.get(0)).equalsIgnoreCase(text)
                            ? "capitals."
                            : "blanks and capitals."));
  }

  private static Expression plain(Expression text) {
    return Call.FunctionCall.of("LOWER", Call.FunctionCall.of("TRIM", text));
  }
}
