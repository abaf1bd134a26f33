/**
 * Brings queries into another form, which gives the same rows. {@link io.lantrel.rewrite.Form}
 * lists the forms; each has a class that knows its old and its new shape and makes edits of the
 * text from one to the other.
 */
@NullMarked
package io.lantrel.rewrite;

import org.jspecify.annotations.NullMarked;
