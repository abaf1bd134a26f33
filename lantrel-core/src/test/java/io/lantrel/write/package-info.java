/** Tests of drafts and rewritings. */
@NullMarked
package io.lantrel.write;

import org.jspecify.annotations.NullMarked;
