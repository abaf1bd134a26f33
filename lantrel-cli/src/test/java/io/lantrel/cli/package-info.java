/** Tests of the command line. */
@NullMarked
package io.lantrel.cli;

import org.jspecify.annotations.NullMarked;
