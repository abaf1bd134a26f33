/** Two results side by side: whether they are the same, and where they differ. */
@NullMarked
package io.lantrel.compare;

import org.jspecify.annotations.NullMarked;
