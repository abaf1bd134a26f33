/** Findings about joins: tables that nothing connects or nobody needs, rows lost or repeated. */
@NullMarked
package io.lantrel.check.kinds.joins;

import org.jspecify.annotations.NullMarked;
