package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Corpus;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The statements of the corpus in every form: the rows stay, or a clause says why not. */
public class CorpusRewriteTest extends OnEveryEngine {

  /** What gives other rows each time, or objects that only its engine can compare. */
  private static final Pattern CHANCE =
      Pattern.compile("(?i)rand(om)?\\(|INFORMATION_SCHEMA|TABLESAMPLE|ROW \\(1");

  @Test(dataProvider = "engines")
  public void keepsTheRowsOrSaysWhyNot(Engine engine) {
    List<String> statements = new ArrayList<>(Corpus.statements(engine.dialect()));
    if (engine != Engine.DUCKDB) {
      statements.addAll(Corpus.plain(engine.dialect()));
    }
    statements.removeIf(sql -> CHANCE.matcher(sql).find());
    List<String> wrong = new ArrayList<>();
    int changed = 0;
    Lantrel lantrel = at(engine);
    for (String sql : statements) {
      for (Form form : Form.values()) {
        Optional<Rewriting> done =
            tried(() -> lantrel.rewrite(sql, form), form + ": " + sql, wrong);
        changed += done.filter(Rewriting::isChanged).isPresent() ? 1 : 0;
        done.filter(each -> each.difference().isPresent() && each.remarks().isEmpty())
            .ifPresent(each -> wrong.add(sql + " -> " + each.sql() + ": " + each.difference()));
      }
    }
    assertThat(wrong).isEmpty();
    assertThat(changed).isGreaterThan(40);
  }

  @DataProvider
  static Object[][] pairs() {
    return RiverDatabases.engines().stream()
        .flatMap(from -> RiverDatabases.engines().stream().map(to -> new Object[] {from, to}))
        .filter(pair -> pair[0] != pair[1])
        .toArray(Object[][]::new);
  }

  /**
   * Each statement goes to two of the others. Much of it only one product has; what has no
   * counterpart is refused in a sentence.
   */
  @Test(dataProvider = "pairs")
  public void translatesOrRefuses(Engine from, Engine to) {
    List<String> all = Corpus.statements(from.dialect());
    List<String> statements =
        IntStream.range(0, all.size())
            .filter(i -> (i + to.ordinal()) % 3 == 0)
            .mapToObj(all::get)
            .toList();
    List<String> wrong = new ArrayList<>();
    int same = 0;
    Lantrel here = at(from);
    Lantrel there = at(to);
    for (String sql : statements) {
      List<String> refused = new ArrayList<>();
      Optional<Rewriting> done = tried(() -> here.translate(sql, there), sql, refused);
      refused.stream().filter(each -> !each.contains("does not take")).forEach(wrong::add);
      same += done.filter(each -> each.rows().isPresent()).isPresent() ? 1 : 0;
    }
    assertThat(wrong).isEmpty();
    assertThat(same).isPositive();
  }

  /** What is no refusal in a sentence, and no engine's refusal of what it took before, is wrong. */
  private static Optional<Rewriting> tried(
      Supplier<Rewriting> rewriting, String what, List<String> wrong) {
    try {
      return Optional.of(rewriting.get());
    } catch (RewriteException refused) {
      String words = String.valueOf(refused.getMessage());
      if (words.contains("does not take") && !words.contains("did not as it was")) {
        wrong.add(what + ": " + words);
      }
    } catch (RuntimeException failure) {
      wrong.add(what + ": " + failure);
    }
    return Optional.empty();
  }
}
