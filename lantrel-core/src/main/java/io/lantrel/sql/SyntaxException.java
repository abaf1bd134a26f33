package io.lantrel.sql;

/** A text that had to be SQL and is not. */
public final class SyntaxException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final transient SyntaxProblem problem;

  public SyntaxException(SyntaxProblem problem) {
    super(problem.message());
    this.problem = problem;
  }

  /** Where and why. */
  public SyntaxProblem problem() {
    return problem;
  }
}
