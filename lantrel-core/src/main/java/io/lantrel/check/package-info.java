/**
 * Findings. Each kind is one small class in {@code kinds} that reads a resolved block and returns
 * {@link io.lantrel.check.suspicion.Suspicion}s: a place, questions for the database, and what to
 * conclude from the answers. The {@link io.lantrel.check.inspection.Inspector} asks all questions
 * in one round, drops what the answers do not bear out, tries the repairs in another, and yields
 * {@link io.lantrel.check.Finding}s.
 */
@NullMarked
package io.lantrel.check;

import org.jspecify.annotations.NullMarked;
