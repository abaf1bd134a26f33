/**
 * The front door. {@link io.lantrel.Lantrel} opens sample data; a {@link io.lantrel.Study} is one
 * statement looked at on it: its findings, its ledger, its rows.
 */
@NullMarked
package io.lantrel;

import org.jspecify.annotations.NullMarked;
