/** Tests of the reports. */
@NullMarked
package io.lantrel.report;

import org.jspecify.annotations.NullMarked;
