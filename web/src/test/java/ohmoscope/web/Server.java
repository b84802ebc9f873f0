package ohmoscope.web;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.UUID;
import java.util.function.UnaryOperator;
import javax.sql.DataSource;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * The real application on a random port over the real PostgreSQL, started once a run and given to tests as a parameter.
 * The database server's address comes from {@code ./ohmoscope test}.
 */
public final class Server implements ParameterResolver, BeforeAllCallback {
    private static Server.Running running;

    /** What a test may use. */
    public record Running(ConfigurableApplicationContext context, int port) {
        public <T> T bean(Class<T> type) {
            return context.getBean(type);
        }

        public String url(String path) {
            return "http://127.0.0.1:" + port + path;
        }
    }

    /** A class finds no job or bench of another's, and none of its own from an attempt before: their names are free. */
    @Override
    public void beforeAll(ExtensionContext extension) throws SQLException {
        if (running != null) {
            try (Connection connection = running.bean(DataSource.class).getConnection();
                    Statement statement = connection.createStatement()) {
                statement.execute("update job set number = 'old-' || id where number not like 'old-%'");
                statement.execute("update bench set name = 'old ' || id where name not like 'old %'");
            }
        }
    }

    @Override
    public boolean supportsParameter(ParameterContext parameter, ExtensionContext extension) {
        return parameter.getParameter().getType() == Running.class;
    }

    @Override
    public Running resolveParameter(ParameterContext parameter, ExtensionContext extension) {
        return running();
    }

    private static synchronized Running running() {
        if (running == null) {
            try {
                running = start(UnaryOperator.identity());
            } catch (Exception failed) {
                throw new IllegalStateException("the application could not be started for tests", failed);
            }
        }
        return running;
    }

    /** @param way from the address of a fresh database to the one that the application is told */
    static Running start(UnaryOperator<String> way) throws Exception {
        String server = System.getenv("OHMOSCOPE_TEST_DB");
        if (server == null) {
            throw new IllegalStateException("no database for tests: run ./ohmoscope test, which makes one");
        }
        String user = System.getenv("OHMOSCOPE_TEST_DB_USER");
        String password = System.getenv("OHMOSCOPE_TEST_DB_PASSWORD");
        String name = "test_" + UUID.randomUUID().toString().replace("-", "");
        try (Connection connection = DriverManager.getConnection(server, user, password);
                Statement statement = connection.createStatement()) {
            statement.execute("create database " + name);
        }
        Path work = Files.createTempDirectory("ohmoscope-test");
        String url = server.replaceFirst("/[^/]*$", "/" + name);
        ConfigurableApplicationContext context = new SpringApplication(Application.class)
                .run(
                        "--server.port=0",
                        "--spring.datasource.url=" + way.apply(url),
                        "--spring.datasource.username=" + user,
                        "--spring.datasource.password=" + password,
                        "--ohmoscope.work-folder=" + work,
                        // The browser shares two cores with other tests; what a beat that is missed does is tested
                        // apart.
                        "--ohmoscope.key-silence=3s");
        int port = ((ServletWebServerApplicationContext) context).getWebServer().getPort();
        Runtime.getRuntime().addShutdownHook(new Thread(context::close));
        return new Running(context, port);
    }
}
