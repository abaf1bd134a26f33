/** What is asked for rows that are looked at. */
@NullMarked
package io.lantrel.rows.asked;

import org.jspecify.annotations.NullMarked;
