package ohmoscope.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** Talks to the real application as a program does. */
@ExtendWith(Server.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class OverHttp {
    /** Long enough for everything that other tests have queued, on a slow machine. */
    static final Duration QUEUE = Duration.ofMinutes(4);

    private static final String BOUNDARY = "----ohmoscope";

    final HttpClient http = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .connectTimeout(Duration.ofSeconds(10))
            .build();
    Server.Running server;

    @BeforeAll
    void meet(Server.Running running) throws Exception {
        server = running;
    }

    /** A file to be sent. */
    record File(String field, String name, byte[] content) {}

    HttpResponse<String> get(String path) throws IOException, InterruptedException {
        return http.send(HttpRequest.newBuilder(URI.create(server.url(path))).build(), BodyHandlers.ofString());
    }

    String token() throws IOException, InterruptedException {
        Matcher m = Pattern.compile("data-csrf-token=\"([^\"]+)\"").matcher(get("/").body());
        assertThat(m.find()).isTrue();
        return m.group(1);
    }

    HttpResponse<String> post(String path, String body, String token) throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(URI.create(server.url(path)))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .header("X-XSRF-TOKEN", token)
                        .POST(BodyPublishers.ofString(body))
                        .build(),
                BodyHandlers.ofString());
    }

    HttpResponse<String> upload(String path, List<File> files, String token) throws IOException, InterruptedException {
        ByteArrayOutputStream body = new ByteArrayOutputStream();
        for (File file : files) {
            body.write(("--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"" + file.field()
                            + "\"; filename=\"" + file.name() + "\"\r\nContent-Type: application/octet-stream\r\n\r\n")
                    .getBytes(StandardCharsets.UTF_8));
            body.write(file.content());
            body.write("\r\n".getBytes(StandardCharsets.UTF_8));
        }
        body.write(("--" + BOUNDARY + "--\r\n").getBytes(StandardCharsets.UTF_8));
        return http.send(
                HttpRequest.newBuilder(URI.create(server.url(path)))
                        .header("Content-Type", "multipart/form-data; boundary=" + BOUNDARY)
                        .header("X-XSRF-TOKEN", token)
                        .POST(BodyPublishers.ofByteArray(body.toByteArray()))
                        .build(),
                BodyHandlers.ofString());
    }

    HttpResponse<String> upload(String name, byte[] bytes) throws IOException, InterruptedException {
        return upload("/imports", List.of(new File("bundle", name, bytes)), token());
    }

    /** What an import has come to, when it has ended. */
    String awaitImport(HttpResponse<String> accepted) throws IOException, InterruptedException {
        Matcher m = Pattern.compile("\"id\":\"([^\"]+)\"").matcher(accepted.body());
        assertThat(m.find()).as(accepted.body()).isTrue();
        return await().atMost(QUEUE)
                .until(
                        () -> get("/imports/" + m.group(1)).body(),
                        told -> !told.contains("\"waiting\"") && !told.contains("\"running\""));
    }
}
