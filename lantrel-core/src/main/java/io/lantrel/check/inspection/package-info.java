/**
 * How a statement is inspected: what is suspected of it, what is asked in which round, what the
 * answers amount to, and which repairs hold.
 */
@NullMarked
package io.lantrel.check.inspection;

import org.jspecify.annotations.NullMarked;
