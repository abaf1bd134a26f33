package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.Database;
import java.util.HashMap;
import java.util.Map;

/** Walks down the self-references of a survey: each once, whoever asks what it met. */
final class HierarchyWalks {

  private final Catalog catalog;
  private final Database database;
  private final Map<Reference, HierarchyWalk.Levels> known = new HashMap<>();

  HierarchyWalks(Catalog catalog, Database database) {
    this.catalog = catalog;
    this.database = database;
  }

  HierarchyWalk along(Reference reference) {
    return new HierarchyWalk(reference, catalog, database);
  }

  HierarchyWalk.Levels levels(Reference reference) {
    return known.computeIfAbsent(reference, each -> along(each).levels());
  }
}
