package io.lantrel.rows;

import io.lantrel.ledger.Entry;

/**
 * The rows as they stand after one step of FROM.
 *
 * @param number of the step, from 1: the first table, then each join
 * @param entry its figures in the account of the query
 * @param rows the rows; of each table its key, its first text, and what the query names
 */
public record StepRows(int number, Entry entry, ShownRows rows) {}
