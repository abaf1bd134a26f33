/**
 * What a kind of finding is made of: a {@link io.lantrel.check.suspicion.Subject} that is looked
 * at, {@link io.lantrel.check.suspicion.Suspicion}s of it with their questions, and the {@link
 * io.lantrel.check.suspicion.Conclusion} that the answers allow.
 */
@NullMarked
package io.lantrel.check.suspicion;

import org.jspecify.annotations.NullMarked;
