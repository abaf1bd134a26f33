/** Tests of the front door. */
@NullMarked
package io.lantrel;

import org.jspecify.annotations.NullMarked;
