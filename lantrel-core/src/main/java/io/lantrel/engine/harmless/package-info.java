/**
 * What may run. A query goes to a database only if everything that it runs is known to do nothing
 * but compute: {@link io.lantrel.engine.harmless.QueryUses} collects what that is, {@link
 * io.lantrel.engine.harmless.HarmlessFunctions} holds the lists of each product, {@link
 * io.lantrel.engine.harmless.DatabaseObjects} what a database has besides, made by its users, and
 * {@link io.lantrel.engine.harmless.Permission} decides. Nothing is forbidden by name: what is not
 * known is not run. Knows trees and the catalog, and no JDBC.
 */
@NullMarked
package io.lantrel.engine.harmless;

import org.jspecify.annotations.NullMarked;
