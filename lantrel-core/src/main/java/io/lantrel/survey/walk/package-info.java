/** Walking down a table that refers to itself, in the database. */
@NullMarked
package io.lantrel.survey.walk;

import org.jspecify.annotations.NullMarked;
