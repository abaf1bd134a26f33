package io.lantrel.engine;

/**
 * Why a database would not run a statement.
 *
 * @param reason in its own words
 * @param isSyntax whether it could not even read the statement
 */
public record Refusal(String reason, boolean isSyntax) {}
