package io.lantrel.engine;

import java.time.Duration;
import java.util.Locale;
import java.util.Properties;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * How a database is reached: {@code Access.to("jdbc:postgresql://host/rivers").as("reader",
 * password)}. Its text never shows the password.
 */
public final class Access {

  /** How long one statement may run, if nothing else is said. */
  public static final Duration TIMEOUT = Duration.ofSeconds(60);

  /** How long it may take to be connected, in seconds. */
  static final int CONNECT_SECONDS = 10;

  private static final Pattern PASSWORD =
      Pattern.compile("(?i)[?&;](?:password|pwd|passwd)=|//[^/@?]*:[^/@?]*@");

  /** What has the database run statements of its own when a connection begins. */
  private static final Pattern SCRIPT =
      Pattern.compile(
          "(?i)[?&;](?:init|initsql|sessionvariables|connectioninitsql|options"
              + "|allowmultiqueries)=");

  private final String url;
  private final @Nullable String user;
  private final @Nullable String password;
  private final Duration timeout;

  private Access(String url, @Nullable String user, @Nullable String password, Duration timeout) {
    this.url = url;
    this.user = user;
    this.password = password;
    this.timeout = timeout;
  }

  /**
   * A database by its JDBC URL.
   *
   * @throws DataException if this is no JDBC URL, or if it holds a password or statements
   */
  public static Access to(String url) {
    if (!url.toLowerCase(Locale.ROOT).startsWith("jdbc:")) {
      throw new DataException(
          "a database is named by its JDBC URL, as jdbc:postgresql://host/name or"
              + " jdbc:sqlite:/folder/file.db; this one does not begin with jdbc:");
    }
    if (PASSWORD.matcher(url).find()) {
      throw new DataException(
          "the URL holds a password, which others can read in the list of processes; leave it out"
              + " and give it apart");
    }
    if (SCRIPT.matcher(url).find()) {
      throw new DataException(
          "the URL has settings that make the database run more than queries (INIT, options,"
              + " sessionVariables and the like); leave them out");
    }
    return new Access(url, null, null, TIMEOUT);
  }

  /**
   * With a user and a password.
   *
   * @param secret the password; null for none
   */
  public Access as(String name, @Nullable String secret) {
    return new Access(url, name, secret, timeout);
  }

  /**
   * With another time limit for each statement.
   *
   * @param limit at least a second
   */
  public Access within(Duration limit) {
    if (limit.compareTo(Duration.ofSeconds(1)) < 0) {
      throw new IllegalArgumentException("a time limit is at least a second");
    }
    return new Access(url, user, password, limit);
  }

  /** The URL. */
  public String url() {
    return url;
  }

  /** The product that the URL is for. */
  public Engine engine() {
    return Engine.ofUrl(url);
  }

  Duration timeout() {
    return timeout;
  }

  /** User and password as JDBC wants them. */
  Properties properties() {
    Properties properties = new Properties();
    if (user != null) {
      properties.setProperty("user", user);
    }
    if (password != null) {
      properties.setProperty("password", password);
    }
    return properties;
  }

  @Override
  public String toString() {
    return url;
  }
}
