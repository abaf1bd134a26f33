/** Tests of drafts and rewritings. */
@NullMarked
package io.lantrel.draft;

import org.jspecify.annotations.NullMarked;
