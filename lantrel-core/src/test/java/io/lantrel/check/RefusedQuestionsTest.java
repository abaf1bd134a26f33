package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A database that runs the query and refuses to answer what is asked about it. */
public class RefusedQuestionsTest {

  private static final String NO = "no such question here";

  /** A query that has a fault, the kind, and what the question about it is known by. */
  @DataProvider
  static Object[][] faults() {
    return new Object[][] {
      {
        "SELECT o.item_id FROM owned o WHERE o.sort IN ('a', 'b') GROUP BY o.item_id HAVING COUNT(*)"
            + " = 2",
        "repeated-in-total",
        "COUNT(DISTINCT"
      },
      {
        "SELECT o.item_id, MIN(o.box_id) AS first_box FROM owned o GROUP BY o.item_id",
        "values-of-several-rows",
        "lantrel_marked"
      },
      {
        "SELECT a.box_id FROM owned a JOIN owned b ON b.no = a.no + 1",
        "partial-key",
        "COUNT(CASE WHEN"
      },
    };
  }

  @Test(dataProvider = "faults")
  public void whatIsNotAnsweredIsNotCalledRight(String sql, String kind, String refused)
      throws SQLException {
    try (Connection connection = DriverManager.getConnection("jdbc:h2:mem:")) {
      try (Statement statement = connection.createStatement()) {
        statement.execute("CREATE TABLE box (id INTEGER PRIMARY KEY)");
        statement.execute(
            "CREATE TABLE owned (item_id INTEGER NOT NULL, no INTEGER NOT NULL, sort VARCHAR(3),"
                + " box_id INTEGER REFERENCES box (id), got DATE, PRIMARY KEY (item_id, no))");
        statement.execute("INSERT INTO box VALUES (1), (2)");
        statement.execute(
            "INSERT INTO owned VALUES (1, 1, 'a', 2, DATE '2026-01-01'), (1, 2, 'a', 1, DATE"
                + " '2026-01-02'), (2, 1, 'a', 2, NULL), (2, 2, 'b', 1, NULL)");
      }
      assertThat(kinds(Lantrel.connect(connection), sql)).contains(kind);
      try (Lantrel lantrel = Lantrel.connect(refusing(connection, refused))) {
        Study study = lantrel.study(sql);
        assertThat(study.findings()).noneMatch(each -> each.kind().id().equals(kind));
        assertThat(study.inspection().unchecked())
            .anyMatch(each -> each.contains(kind) && each.contains("not checked: " + NO));
      }
    }
  }

  private static String kinds(Lantrel lantrel, String sql) {
    try (lantrel) {
      return lantrel.study(sql).findings().stream()
          .map(each -> each.kind().id())
          .toList()
          .toString();
    }
  }

  /** The connection, but for statements that have these words in them. */
  private static Connection refusing(Connection connection, String words) {
    return (Connection) proxy(Connection.class, connection, words);
  }

  private static Object proxy(Class<?> type, Object real, String words) {
    InvocationHandler handler =
        (proxy, method, arguments) -> {
          boolean refused =
              arguments != null
                  && Arrays.stream(arguments)
                      .anyMatch(each -> each instanceof String text && text.contains(words));
          if (refused) {
            throw new SQLException(NO, "42000");
          }
          try {
            Object result = method.invoke(real, arguments);
            return result instanceof Statement && method.getReturnType().isInterface()
                ? proxy(method.getReturnType(), result, words)
                : result;
          } catch (InvocationTargetException failure) {
            throw failure.getCause();
          }
        };
    return Proxy.newProxyInstance(
        RefusedQuestionsTest.class.getClassLoader(), new Class<?>[] {type}, handler);
  }
}
