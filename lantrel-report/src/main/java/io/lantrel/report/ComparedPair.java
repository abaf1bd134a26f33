package io.lantrel.report;

import io.lantrel.compare.Comparison;

/**
 * Two results and what their comparison came to.
 *
 * @param first what the first is called
 * @param second what the second is called
 * @param comparison of the two
 */
public record ComparedPair(String first, String second, Comparison comparison) {}
