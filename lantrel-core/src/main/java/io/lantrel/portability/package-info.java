/**
 * What an engine lacks, or takes in another sense than the engine that a query is written for, and
 * what to write so that both read it alike. Each thing is a {@link
 * io.lantrel.portability.Construct}; the engines themselves are asked for every one of them by a
 * test. Knows trees and what their names mean, and asks no database.
 */
@NullMarked
package io.lantrel.portability;

import org.jspecify.annotations.NullMarked;
