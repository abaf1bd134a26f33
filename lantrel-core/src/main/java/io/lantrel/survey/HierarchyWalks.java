package io.lantrel.survey;

import io.lantrel.catalog.Reference;
import io.lantrel.probe.Asker;
import io.lantrel.survey.walk.HierarchyWalk;
import java.util.HashMap;
import java.util.Map;

/** Walks down the self-references of a survey: each once, whoever asks what it met. */
final class HierarchyWalks {

  private final Asker asker;
  private final Map<Reference, HierarchyWalk.Levels> known = new HashMap<>();

  HierarchyWalks(Asker asker) {
    this.asker = asker;
  }

  HierarchyWalk along(Reference reference) {
    return new HierarchyWalk(reference, asker);
  }

  HierarchyWalk.Levels levels(Reference reference) {
    return known.computeIfAbsent(reference, each -> along(each).levels());
  }
}
