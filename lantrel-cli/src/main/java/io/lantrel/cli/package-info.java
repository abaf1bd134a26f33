/**
 * The command line, thin: options in, a call of the library, a report out, an exit code. {@link
 * io.lantrel.cli.Main} is where it starts; each command is one class.
 */
@NullMarked
package io.lantrel.cli;

import org.jspecify.annotations.NullMarked;
