/**
 * Benchmarks (JMH), each beside what the embedded engine takes for the same statement. Only ratios
 * are told, since the time depends on the machine. Nothing depends on this room; the tests time
 * nothing.
 */
@NullMarked
package io.lantrel.bench;

import org.jspecify.annotations.NullMarked;
