/**
 * The river watch, the made-up world of all examples, and runnable programs on it, each a page or
 * less. {@link io.lantrel.examples.RiverWatch} finds its folder.
 */
@NullMarked
package io.lantrel.examples;

import org.jspecify.annotations.NullMarked;
