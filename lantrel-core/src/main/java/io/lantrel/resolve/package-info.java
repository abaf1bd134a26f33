/**
 * What the names of a query mean. {@link io.lantrel.resolve.Resolver} turns a tree and a catalog
 * into {@link io.lantrel.resolve.QueryBlock}s: the table uses, the join steps with their
 * conditions, the filters and the output columns of each SELECT; what each column name stands for;
 * and the names that mean nothing. A {@link io.lantrel.resolve.ResolvedQuery} says what a query
 * gives: its columns, which of them can be NULL, its keys. Checks, ledger and probes ask here and
 * work none of it out again.
 */
@NullMarked
package io.lantrel.resolve;

import org.jspecify.annotations.NullMarked;
