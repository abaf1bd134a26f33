/**
 * Queries in another form, which gives the same rows, and in another product's SQL: the forms that
 * there are ({@link io.lantrel.rewrite.Form}), what comes out, and on which data it differs.
 */
@NullMarked
package io.lantrel.rewrite;

import org.jspecify.annotations.NullMarked;
