/** Tests of what may run. */
@NullMarked
package io.lantrel.engine.harmless;

import org.jspecify.annotations.NullMarked;
