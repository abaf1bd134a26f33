/** Worlds made at random: tables, rows that keep or break what the schema promises, and queries. */
@NullMarked
package io.lantrel.world;

import org.jspecify.annotations.NullMarked;
