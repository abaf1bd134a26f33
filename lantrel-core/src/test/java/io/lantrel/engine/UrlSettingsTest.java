package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** URLs that would do more than name a database, and what is shown of one. */
public class UrlSettingsTest {

  private static final String HIDDEN = "Hush77";

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {"postgresql://h/d?password=Hush77", "the URL holds a password"},
      {"postgresql://h/d?sslpassword=Hush77", "the URL holds a password"},
      {"postgresql://u:Hush77@h/d", "the URL holds a password"},
      {"postgresql://h/d?options=-c%20a=Hush77", "the setting options"},
      {"postgresql://h/d?socketFactory=Hush77", "the setting socketFactory"},
      {"postgresql://h/d?sslfactory=Hush77", "the setting sslfactory"},
      {"postgresql://h/d?authenticationPluginClassName=Hush77", "the setting authentication"},
      {"postgresql://h/d?loggerFile=Hush77", "the setting loggerFile"},
      {"postgresql://h/d?readOnlyMode=ignore", "the setting readOnlyMode"},
      {"postgresql://h/d?service=Hush77", "the setting service"},
      {"postgresql://h/d?preferQueryMode=simple", "the setting preferQueryMode"},
      {"postgresql://h/d?user=a&PASSWORD=Hush77", "the URL holds a password"},
      {"postgresql://h/d?user=a&Hush77%3D=1", "a setting of the URL"},
      {"mariadb://h/d?sessionVariables=Hush77", "the setting sessionVariables"},
      {"mariadb://h/d?initSql=Hush77", "the setting initSql"},
      {"mariadb://h/d?allowMultiQueries=true", "the setting allowMultiQueries"},
      {"mariadb://h/d?allowLocalInfile=true", "the setting allowLocalInfile"},
      {"mariadb://h/d?createDatabaseIfNotExist=true", "the setting createDatabaseIfNotExist"},
      {"mariadb://h/d?pwd=Hush77", "the URL holds a password"},
      {"mariadb://h/d?keyStorePassword=Hush77", "the URL holds a password"},
      {"mariadb://h/d?credentialType=Hush77", "the URL holds a password"},
      {"mariadb://h/d?galeraAllowedState=Hush77", "the setting galeraAllowedState"},
      {"h2:mem:a;INIT=RUNSCRIPT FROM 'Hush77'", "the setting INIT"},
      {"h2:file:/a;IFEXISTS=FALSE", "the setting IFEXISTS of the URL has a value"},
      {"h2:file:/a;ACCESS_MODE_DATA=rw", "the setting ACCESS_MODE_DATA of the URL has a value"},
      {"h2:file:/a;AUTO_SERVER=TRUE", "the setting AUTO_SERVER"},
      {"h2:file:/a;TRACE_LEVEL_FILE=3", "the setting TRACE_LEVEL_FILE"},
      {"h2:mem:a;MODE=MySQL", "the setting MODE of the URL has a value"},
      {"h2:mem:a;NON_KEYWORDS=SELECT", "the setting NON_KEYWORDS"},
      {"h2:mem:a;PASSWORD=Hush77", "the URL holds a password"},
      {"h2:mem:a;DB_CLOSE_DELAY=-1", "the setting DB_CLOSE_DELAY"},
      {"h2:mem:a;INIT=SET A 1\\;DROP TABLE B", "the setting INIT"},
      {"hsqldb:file:/a;ifexists=false", "the setting ifexists of the URL has a value"},
      {"hsqldb:file:/a;readonly=false", "the setting readonly of the URL has a value"},
      {"hsqldb:file:/a;sql.syntax_mys=true", "the setting sql.syntax_mys"},
      {"hsqldb:mem:a;password=Hush77", "the URL holds a password"},
      {"sqlite:/a?mode=rwc", "the setting mode of the URL has a value"},
      {"sqlite:file:/a?mode=rw", "the setting mode of the URL has a value"},
      {"sqlite:/a?enable_load_extension=true", "the setting enable_load_extension"},
      {"sqlite::resource:http://h/a", "and no resource"},
      {"duckdb:/a;session_init_sql_file=/Hush77", "the setting session_init_sql_file"},
      {"duckdb:/a;duckdb.read_only=false", "the setting duckdb.read_only of the URL has a value"},
      {"duckdb:/a;enable_external_access=true", "the setting enable_external_access"},
      {"duckdb:/a;s3_secret_access_key=Hush77", "the URL holds a password"},
      {"oracle:thin:scott/Hush77@//h/d", "the URL holds a password"},
      {"sqlserver://h;databaseName=a;password=Hush77", "the URL holds a password"},
      {"sqlserver://h;databaseName=a;socketFactoryClass=Hush77", "the setting socketFactoryClass"},
    };
  }

  @Test(dataProvider = "refused")
  public void whatIsNotKnownToBeHarmlessIsRefusedAndNotRepeated(String url, String message) {
    assertThatThrownBy(() -> Access.to("jdbc:" + url))
        .isInstanceOf(DataException.class)
        .hasMessageContaining(message)
        .satisfies(
            failure ->
                assertThat(failure.getMessage())
                    .matches(text -> !text.contains(HIDDEN) || text.contains("setting Hush77")));
  }

  @DataProvider
  static Object[][] taken() {
    return new Object[][] {
      {
        "postgresql://h:1/d?sslmode=require&ApplicationName=a&currentSchema=b", "postgresql://h:1/d"
      },
      {"mariadb://h/d?sslMode=verify-full&timezone=UTC", "mariadb://h/d"},
      {"h2:file:/a;IFEXISTS=TRUE;CIPHER=AES", "h2:file:/a"},
      {"hsqldb:file:/a;ifexists=true", "hsqldb:file:/a"},
      {"sqlite:/a", "sqlite:/a"},
      {"duckdb:/a;threads=2", "duckdb:/a"},
      {"sqlserver://h;databaseName=a;encrypt=true", "sqlserver://h"},
    };
  }

  @Test(dataProvider = "taken")
  public void whatIsHarmlessIsTakenAndNotShown(String url, String shown) {
    assertThat(Access.to("jdbc:" + url)).hasToString("jdbc:" + shown);
    assertThat(Access.to("jdbc:" + url).url()).isEqualTo("jdbc:" + url);
  }
}
