package io.lantrel.claim;

/**
 * A claim that says nothing: it is misspelt, or names what is not there.
 *
 * @param claim the claim
 * @param message what is wrong, and what may have been meant, in a sentence
 */
public record ClaimProblem(Claim claim, String message) {}
