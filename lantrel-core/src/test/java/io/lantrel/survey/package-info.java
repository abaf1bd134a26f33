/** Tests of the survey. */
@NullMarked
package io.lantrel.survey;

import org.jspecify.annotations.NullMarked;
