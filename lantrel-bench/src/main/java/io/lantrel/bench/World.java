package io.lantrel.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;

/** A world of tables in a DuckDB file. */
public final class World {

  private World() {}

  /**
   * Makes a file.
   *
   * @param arguments a folder with {@code world.sql}, the file, and what replaces {@code $1},
   *     {@code $2}… in the world
   */
  public static void main(String[] arguments) throws IOException, SQLException {
    List<String> values = Arrays.asList(arguments).subList(2, arguments.length);
    make(Path.of(arguments[0]), Path.of(arguments[1]), values);
  }

  /**
   * Makes a file.
   *
   * @param folder where {@code world.sql} is
   * @param values what replaces {@code $1}, {@code $2}… in it
   * @return its URL
   */
  static String make(Path folder, Path file, List<String> values) throws IOException, SQLException {
    String world = Files.readString(folder.resolve("world.sql"));
    for (int i = 0; i < values.size(); i++) {
      world = world.replace("$" + (i + 1), values.get(i));
    }
    String url = "jdbc:duckdb:" + file;
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      for (String sql : world.split(";\\s*\n", -1)) {
        if (!sql.isBlank()) {
          statement.execute(sql);
        }
      }
    }
    return url;
  }
}
