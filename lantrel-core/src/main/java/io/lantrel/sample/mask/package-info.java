/** Values that stand for others, so that a sample can leave the house. */
@NullMarked
package io.lantrel.sample.mask;

import org.jspecify.annotations.NullMarked;
