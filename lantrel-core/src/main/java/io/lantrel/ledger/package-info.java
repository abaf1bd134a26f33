/**
 * The account of the rows of a query, step by step: what was there before, what was dropped,
 * repeated or added, what goes on. It balances, and its last figure is what the database itself
 * counts; if either fails, that is a defect of Lantrel, and no ledger is shown. Enter through
 * {@link io.lantrel.ledger.account.LedgerMaker}.
 */
@NullMarked
package io.lantrel.ledger;

import org.jspecify.annotations.NullMarked;
