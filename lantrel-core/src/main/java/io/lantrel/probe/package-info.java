/**
 * Questions about a query, and the one place that asks them. A {@link io.lantrel.probe.Question} is
 * a value: which {@link io.lantrel.probe.Relation} it is about, what is counted or which rows are
 * wanted, and how to read the answer. {@link io.lantrel.probe.JoinedRows} are the relations of a
 * block: the rows at each join step with their partners or without. The {@link
 * io.lantrel.probe.Asker} puts all questions of a round to the database in few statements.
 */
@NullMarked
package io.lantrel.probe;

import org.jspecify.annotations.NullMarked;
