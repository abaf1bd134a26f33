package io.lantrel.survey;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** How the tables and columns of a database are named: one style each, as people have them. */
enum NameStyle {
  PLAIN("id", "{role}{table}_id", ""),
  /** {@code rd_id}, {@code rd_st_id}: both short names. */
  PREFIX_OF_BOTH("{own}_id", "{own}_{role}{other}_id", "{own}_"),
  /** {@code st_id} in the table that refers, as in the one that is referred to. */
  PREFIX_OF_OTHER("{own}_id", "{role}{other}_id", "{own}_"),
  /** {@code rd_station_id} beside {@code st_id}. */
  PREFIX_AND_TABLE("{own}_id", "{own}_{role}{table}_id", "{own}_"),
  /** {@code rd_stationkey} beside {@code st_stationkey}. */
  PREFIX_AND_KEY("{own}_{self}key", "{own}_{role}{table}key", "{own}_"),
  FK("pk", "{role}{table}_fk", ""),
  FK_FIRST("id_{self}", "fk_{role}{table}", ""),
  ID_FIRST("id_{self}", "id_{table}{_role}", ""),
  CAMEL_CASE("{Self}Id", "{Role}{Table}Id", ""),
  PLURAL("id", "{role}{table}_id", ""),
  ABBREVIATION("id", "{role}{short}_id", ""),
  BEGINNING("id", "{role}{begin}_id", ""),
  INITIALS("id", "{role}{initials}_no", ""),
  TEXT_KEY("code", "{role}{table}", ""),
  TEXT_CODE("{self}_code", "{role}{table}_code", ""),
  ROLE_ALONE("id", "{role}keeper_id", ""),
  COMPOSITE("{self}_no", "{role}{table}_no", "");

  private final String key;
  private final String reference;
  private final String prefix;

  NameStyle(String key, String reference, String prefix) {
    this.key = key;
    this.reference = reference;
    this.prefix = prefix;
  }

  /** Whether a name says which table it refers to, and not only that it refers. */
  boolean namesTheTable() {
    return this != ROLE_ALONE;
  }

  boolean isText() {
    return this == TEXT_KEY || this == TEXT_CODE;
  }

  /** A table's own name. */
  String table(List<String> words) {
    return switch (this) {
      case CAMEL_CASE -> camel(words);
      case PLURAL ->
          joined(words.subList(0, words.size() - 1), plural(words.get(words.size() - 1)));
      default -> String.join("_", words);
    };
  }

  String key(List<String> own, String shortOwn) {
    return filled(key, own, shortOwn, own, shortOwn, "");
  }

  /** A column that refers. */
  String reference(
      List<String> own, String shortOwn, List<String> other, String shortOther, String role) {
    return filled(reference, own, shortOwn, other, shortOther, role);
  }

  /** Any other column. */
  String column(String name, String shortOwn) {
    if (this == CAMEL_CASE) {
      return camel(Arrays.asList(name.split("_", -1)));
    }
    return prefix.replace("{own}", shortOwn) + name;
  }

  private static String filled(
      String pattern,
      List<String> own,
      String shortOwn,
      List<String> other,
      String shortOther,
      String role) {
    String snake = String.join("_", other);
    return pattern
        .replace("{own}", shortOwn)
        .replace("{other}", shortOther)
        .replace("{self}", String.join("_", own))
        .replace("{Self}", camel(own))
        .replace("{table}", snake)
        .replace("{Table}", camel(other))
        .replace("{role}", role.isEmpty() ? "" : role + "_")
        .replace("{_role}", role.isEmpty() ? "" : "_" + role)
        .replace("{Role}", role.isEmpty() ? "" : camel(List.of(role)))
        .replace(
            "{short}", other.stream().map(NameStyle::skeleton).collect(Collectors.joining("_")))
        .replace(
            "{begin}",
            other.stream()
                .map(each -> each.substring(0, Math.min(4, each.length())))
                .collect(Collectors.joining("_")))
        .replace("{initials}", initials(other));
  }

  /** The first letter and the consonants behind it, three at most: stn, rdg. */
  private static String skeleton(String word) {
    String consonants = word.substring(0, 1) + word.substring(1).replaceAll("[aeiouy]", "");
    return consonants.length() <= 3
        ? consonants
        : consonants.substring(0, 2) + consonants.charAt(consonants.length() - 1);
  }

  private static String initials(List<String> words) {
    return words.size() == 1
        ? words.get(0).substring(0, Math.min(3, words.get(0).length()))
        : words.stream().map(each -> each.substring(0, 1)).collect(Collectors.joining());
  }

  private static String joined(List<String> words, String last) {
    List<String> all = new ArrayList<>(words);
    all.add(last);
    return String.join("_", all);
  }

  private static String plural(String word) {
    if (word.equals("species")) {
      return word;
    }
    if (word.matches(".*(?:s|x|ch|sh)")) {
      return word + "es";
    }
    return word.matches(".*[^aeiou]y") ? word.substring(0, word.length() - 1) + "ies" : word + "s";
  }

  private static String camel(List<String> words) {
    return words.stream()
        .map(each -> each.substring(0, 1).toUpperCase(Locale.ROOT) + each.substring(1))
        .collect(Collectors.joining());
  }
}
