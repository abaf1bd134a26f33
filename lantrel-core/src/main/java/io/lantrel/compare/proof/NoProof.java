package io.lantrel.compare.proof;

/** That a query has something of which nothing is proven. */
final class NoProof extends Exception {
  private static final long serialVersionUID = 1L;

  NoProof(String what) {
    super(what);
  }
}
