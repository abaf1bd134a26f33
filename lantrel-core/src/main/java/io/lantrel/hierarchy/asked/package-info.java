/** What is asked to draw a hierarchy, and the queries that are written to walk one. */
@NullMarked
package io.lantrel.hierarchy.asked;

import org.jspecify.annotations.NullMarked;
