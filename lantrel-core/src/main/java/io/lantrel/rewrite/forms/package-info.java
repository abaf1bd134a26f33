/**
 * The forms of {@link io.lantrel.rewrite.Form}: each has a class that knows its old and its new
 * shape and makes edits of the text from one to the other.
 */
@NullMarked
package io.lantrel.rewrite.forms;

import org.jspecify.annotations.NullMarked;
