/** Tests over all engines, on real ones. */
@NullMarked
package io.lantrel.engine;

import org.jspecify.annotations.NullMarked;
