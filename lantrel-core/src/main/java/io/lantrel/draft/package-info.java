/**
 * Writes queries. A {@link io.lantrel.draft.Wish} says what a result should show; {@link
 * io.lantrel.draft.Drafter} finds how the tables hang together and writes the query as a person
 * would, or several where the tables hang together in several ways. Nothing is run here: a draft is
 * a text, and is checked like any other query.
 */
@NullMarked
package io.lantrel.draft;

import org.jspecify.annotations.NullMarked;
