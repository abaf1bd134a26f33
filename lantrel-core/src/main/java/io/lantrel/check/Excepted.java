package io.lantrel.check;

/**
 * A finding that a comment beside the query accepts.
 *
 * @param finding what was found
 * @param reason why it may be so, as the comment says
 */
public record Excepted(Finding finding, String reason) {}
