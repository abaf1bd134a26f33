package io.lantrel.cli;

/** The forms of output; the names are those that a user types. */
enum Format {
  text,
  json
}
