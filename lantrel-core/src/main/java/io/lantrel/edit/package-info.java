/**
 * Changes of somebody's query as edits of its text: what is not changed stays as it was written.
 */
@NullMarked
package io.lantrel.edit;

import org.jspecify.annotations.NullMarked;
