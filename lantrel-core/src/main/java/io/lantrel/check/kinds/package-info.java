/**
 * One class for each kind of finding, no longer than its thought. To add one: a class here, its
 * name in {@link io.lantrel.check.Kind}, its line in {@link io.lantrel.check.kinds.AllChecks}, and
 * its page in the documentation, which is also its test.
 */
@NullMarked
package io.lantrel.check.kinds;

import org.jspecify.annotations.NullMarked;
