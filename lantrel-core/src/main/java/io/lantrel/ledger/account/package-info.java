/**
 * How a ledger is made: what is asked of each block, round by round, and the account that comes of
 * the answers.
 */
@NullMarked
package io.lantrel.ledger.account;

import org.jspecify.annotations.NullMarked;
