package io.lantrel.engine;

import java.time.Duration;
import java.util.Locale;
import java.util.Properties;
import org.jspecify.annotations.Nullable;

/**
 * How a database is reached: {@code Access.to("jdbc:postgresql://host/rivers").as("reader",
 * password)}. Its text never shows the password.
 */
public final class Access {

  /** How long it may take to be connected, in seconds. */
  static final int CONNECT_SECONDS = 10;

  private final String url;
  private final @Nullable String user;
  private final @Nullable String password;
  private final Limits limits;

  private Access(String url, @Nullable String user, @Nullable String password, Limits limits) {
    this.url = url;
    this.user = user;
    this.password = password;
    this.limits = limits;
  }

  /**
   * A database by its JDBC URL.
   *
   * @throws DataException if this is no JDBC URL, or if it holds a password or a setting that is
   *     not known to change nothing
   */
  public static Access to(String url) {
    if (!url.toLowerCase(Locale.ROOT).startsWith("jdbc:")) {
      throw new DataException(
          "a database is named by its JDBC URL, as jdbc:postgresql://host/name or"
              + " jdbc:sqlite:/folder/file.db; this one does not begin with jdbc:");
    }
    UrlSettings.check(url, Engine.ofUrl(url));
    return new Access(url, null, null, Limits.usual());
  }

  /**
   * With a user and a password.
   *
   * @param secret the password; null for none
   */
  public Access as(String name, @Nullable String secret) {
    return new Access(url, name, secret, limits);
  }

  /** With other limits. */
  public Access within(Limits other) {
    return new Access(url, user, password, other);
  }

  /**
   * With another time limit for the study of a statement.
   *
   * @throws IllegalArgumentException if it is less than a second
   */
  public Access within(Duration time) {
    return within(limits.within(time));
  }

  /** The URL. */
  public String url() {
    return url;
  }

  /** The product that the URL is for. */
  public Engine engine() {
    return Engine.ofUrl(url);
  }

  Limits limits() {
    return limits;
  }

  /** What may be shown: settings may hold what nobody else should see. */
  public String shown() {
    return UrlSettings.withoutSettings(url);
  }

  /** What a driver says, without the settings and the password that it may repeat. */
  String withoutSecrets(String words) {
    String plain = words.replace(url, shown());
    return password == null || password.isEmpty() ? plain : plain.replace(password, "…");
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
    return shown();
  }
}
