/**
 * Questions about a query, as queries: this room only asks. {@link io.lantrel.probe.Chain} is the
 * heart: the joined rows of a block, one common table after each step, in which every row carries
 * the number of the row of each table that it was put together from. Every figure of the ledger and
 * every piece of evidence is a count over that chain, so each join is computed once however much is
 * asked of it.
 */
@NullMarked
package io.lantrel.probe;

import org.jspecify.annotations.NullMarked;
