package io.lantrel.draft;

/**
 * What rows are put in order by, as it was written.
 *
 * @param down whether the greatest comes first
 */
record ItemOrder(Item item, boolean down) {

  static ItemOrder of(String text) {
    String item = text.strip().replaceFirst("(?i)\\s+(desc|asc)$", "");
    return new ItemOrder(Item.of(item), text.strip().matches("(?is).*\\s+desc"));
  }

  /** A value with its direction, as ORDER BY has it. */
  String by(String value) {
    return value + (down ? " DESC" : "");
  }
}
