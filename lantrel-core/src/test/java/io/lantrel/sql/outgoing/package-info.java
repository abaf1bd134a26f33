/** Tests of what leaves for a database. */
@NullMarked
package io.lantrel.sql.outgoing;

import org.jspecify.annotations.NullMarked;
