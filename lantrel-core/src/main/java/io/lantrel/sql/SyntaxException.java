package io.lantrel.sql;

import io.lantrel.failure.LantrelException;

/** A text that had to be SQL and is not. */
public final class SyntaxException extends LantrelException {
  private static final long serialVersionUID = 1L;

  private final transient SyntaxProblem problem;

  public SyntaxException(SyntaxProblem problem) {
    super(problem.message(), null);
    this.problem = problem;
  }

  /** Where and why. */
  public SyntaxProblem problem() {
    return problem;
  }
}
