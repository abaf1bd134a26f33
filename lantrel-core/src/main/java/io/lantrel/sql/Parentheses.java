package io.lantrel.sql;

import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;

/** Parentheses around an alternative that is put beside other conditions with AND. */
public final class Parentheses {

  private Parentheses() {}

  /** A condition as a term of AND: in parentheses if it binds less and has none of its own. */
  public static String asTerm(Expression condition, String text) {
    return areNeeded(condition) ? "(" + text + ")" : text;
  }

  /** Whether a condition would fall apart beside AND: an OR or XOR without parentheses around. */
  public static boolean areNeeded(Expression condition) {
    boolean weak =
        condition instanceof Condition.Or
            || (condition instanceof Value.Operation operation && operation.sign().equals("XOR"));
    return weak && condition.children().get(0).span().start() == condition.span().start();
  }

  /** The text in parentheses, unless one pair stands around all of it. Too many do no harm. */
  public static String around(String text) {
    return isEnclosed(text.strip()) ? text : "(" + text + ")";
  }

  private static boolean isEnclosed(String text) {
    if (!text.startsWith("(") || !text.matches("[^'\"`]*")) {
      return false;
    }
    int depth = 0;
    for (int i = 0; i < text.length(); i++) {
      depth += text.charAt(i) == '(' ? 1 : text.charAt(i) == ')' ? -1 : 0;
      if (depth == 0) {
        return i == text.length() - 1;
      }
    }
    return false;
  }
}
