/**
 * What leaves for a database. {@link io.lantrel.sql.outgoing.Outgoing} prints a tree, writes its
 * words, signs, names and texts as one product has them, and reads the result again by that
 * product's own rules: only if exactly what was printed comes back, and it is one statement, may it
 * go. Texts are written so that no setting of a session can move their end. Knows the tree, the
 * printer and the dialects of {@code io.lantrel.sql}; knows no database.
 */
@NullMarked
package io.lantrel.sql.outgoing;

import org.jspecify.annotations.NullMarked;
