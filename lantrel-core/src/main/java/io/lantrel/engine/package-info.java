/**
 * The databases that run the queries. A {@link io.lantrel.engine.Database} answers probes and runs
 * a user's query read-only, under a time limit and a cap on rows. {@link io.lantrel.engine.Engine}
 * is the list of products, each with what is particular to it in a class of its own; {@link
 * io.lantrel.engine.SampleData} fills one from a folder of CSV files, {@link
 * io.lantrel.engine.LiveDatabase} reads somebody's own. Only this room knows JDBC.
 */
@NullMarked
package io.lantrel.engine;

import org.jspecify.annotations.NullMarked;
