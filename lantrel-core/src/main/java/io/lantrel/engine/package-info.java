/**
 * The databases that run the queries. A {@link io.lantrel.engine.Database} answers probes and runs
 * a user's query read-only, under a time limit and a cap on rows; {@link io.lantrel.engine.DuckDb}
 * is the embedded one. {@link io.lantrel.engine.SampleData} fills it from a folder of CSV files.
 * Only this room knows JDBC.
 */
@NullMarked
package io.lantrel.engine;

import org.jspecify.annotations.NullMarked;
