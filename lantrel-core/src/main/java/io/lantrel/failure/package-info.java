/** What all exceptions of Lantrel have in common. */
@org.jspecify.annotations.NullMarked
package io.lantrel.failure;
