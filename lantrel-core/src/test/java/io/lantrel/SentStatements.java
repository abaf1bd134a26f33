package io.lantrel;

import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.SentStatement;
import io.lantrel.engine.StatementWatcher;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Notes what a database is sent: the price of an answer. */
public final class SentStatements implements StatementWatcher {

  private final List<String> texts = new ArrayList<>();

  @Override
  public void begins(SentStatement statement) {
    texts.add(statement.sql());
  }

  @Override
  public void ended(SentStatement statement, Duration took, @Nullable DatabaseException failure) {}

  /** All since the last {@link #forget}, in their order. */
  public List<String> texts() {
    return List.copyOf(texts);
  }

  /** How many joins are in all of them together. */
  public long joins() {
    return count(" JOIN ");
  }

  /** How many parts are put below another one, in all of them together. */
  public long furtherParts() {
    return count(" UNION ALL ");
  }

  private long count(String words) {
    return texts.stream().mapToLong(each -> each.split(words, -1).length - 1L).sum();
  }

  public void forget() {
    texts.clear();
  }
}
