/**
 * A small part of a database that is worth checking on: closed under its references, with the rows
 * in which mistakes show. Enter through {@link io.lantrel.Lantrel}.
 */
@NullMarked
package io.lantrel.sample;

import org.jspecify.annotations.NullMarked;
