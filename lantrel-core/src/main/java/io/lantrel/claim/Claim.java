package io.lantrel.claim;

import io.lantrel.sql.Place;
import java.util.Optional;

/**
 * What somebody says of a result.
 *
 * @param text in the words of claims, as {@code one row per station}
 * @param place where it stands in the text of the query; empty if it does not stand there
 */
public record Claim(String text, Optional<Place> place) {

  /** One that does not stand with the query. */
  public static Claim of(String text) {
    return new Claim(text.strip(), Optional.empty());
  }
}
