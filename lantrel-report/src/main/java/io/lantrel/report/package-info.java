/**
 * Answers as text and as JSON. {@link io.lantrel.report.TextReport} writes for a terminal of 80 to
 * 120 columns, {@link io.lantrel.report.JsonReport} for programs. Nothing here prints: callers get
 * a text and put it where it belongs.
 */
@NullMarked
package io.lantrel.report;

import org.jspecify.annotations.NullMarked;
