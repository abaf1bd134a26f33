/** How figures, nouns and lists are put into sentences. */
@NullMarked
package io.lantrel.words;

import org.jspecify.annotations.NullMarked;
