/** Tests of the findings. */
@NullMarked
package io.lantrel.check;

import org.jspecify.annotations.NullMarked;
