package io.lantrel.bench;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Collections;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * What {@code check} is measured against: a program that opens an engine, loads the same data and
 * runs the query, and does nothing else. {@code start-up.sh} times both.
 */
public final class BareProgram {

  private static final Pattern TABLE = Pattern.compile("(?s)CREATE TABLE (\\w+) \\((.*?)\\);");

  private BareProgram() {}

  /**
   * Prints the number of rows that the query gives.
   *
   * @param arguments a JDBC URL of an empty database, the folder of the sample data, the query's
   *     file
   */
  public static void main(String[] arguments) throws SQLException, IOException {
    Path folder = Path.of(arguments[1]);
    try (Connection connection = DriverManager.getConnection(arguments[0])) {
      Matcher table = TABLE.matcher(Files.readString(folder.resolve("schema.sql")));
      while (table.find()) {
        load(connection, table.group(1), table.group(2), folder);
      }
      try (Statement statement = connection.createStatement();
          ResultSet rows = statement.executeQuery(query(Path.of(arguments[2])))) {
        int count = 0;
        while (rows.next()) {
          count++;
        }
        System.out.println(count);
      }
    }
  }

  private static String query(Path file) throws IOException {
    return Files.readString(file).strip().replaceFirst(";\\s*$", "");
  }

  private static void load(Connection connection, String name, String body, Path folder)
      throws SQLException, IOException {
    String columns =
        body.replaceAll("PRIMARY KEY( \\([^)]*\\))?|REFERENCES \\w+ \\(\\w+\\)", "")
            .replaceAll(",\\s*$", "");
    try (Statement statement = connection.createStatement()) {
      statement.execute("CREATE TABLE " + name + " (" + columns + ")");
    }
    CSVFormat format = CSVFormat.RFC4180.builder().setHeader().setSkipHeaderRecord(true).get();
    try (CSVParser csv =
        CSVParser.parse(folder.resolve(name + ".csv"), StandardCharsets.UTF_8, format)) {
      for (CSVRecord row : csv) {
        String places = String.join(", ", Collections.nCopies(row.size(), "?"));
        try (PreparedStatement insert =
            connection.prepareStatement("INSERT INTO " + name + " VALUES (" + places + ")")) {
          for (int i = 0; i < row.size(); i++) {
            String text = row.get(i);
            insert.setString(i + 1, text.isEmpty() ? null : text);
          }
          insert.executeUpdate();
        }
      }
    }
  }
}
