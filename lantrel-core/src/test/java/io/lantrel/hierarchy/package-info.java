/** Tests of hierarchies. */
@NullMarked
package io.lantrel.hierarchy;

import org.jspecify.annotations.NullMarked;
