/** Tests of the examples. */
@NullMarked
package io.lantrel.examples;

import org.jspecify.annotations.NullMarked;
