package io.lantrel.check.suspicion;

import java.util.List;

/** Looks for one kind of mistake in one block. Pure: it makes questions and asks none. */
public interface Check {

  /** What may be wrong, in the order of the text. */
  List<Suspicion> suspect(Subject subject);
}
