package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import ohmoscope.web.Server;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What a browser and the server agree upon before pictures flow. */
@ExtendWith(Server.class)
class PlainLinesTest {
    @Test
    void anOfferToCompressIsNotTaken(Server.Running server) throws Exception {
        URI at = URI.create(server.url("/jobs/none/live/line?bench=1"));
        List<String> answer = new ArrayList<>();
        try (Socket socket = new Socket(at.getHost(), at.getPort())) {
            String asked = String.join(
                    "\r\n",
                    "GET " + at.getPath() + "?" + at.getQuery() + " HTTP/1.1",
                    "Host: " + at.getAuthority(),
                    "Origin: " + server.url(""),
                    "Connection: Upgrade",
                    "Upgrade: websocket",
                    "Sec-WebSocket-Version: 13",
                    "Sec-WebSocket-Key: b2htb3Njb3BlLWxpbmVzIQ==",
                    "Sec-WebSocket-Extensions: permessage-deflate; client_max_window_bits",
                    "",
                    "");
            socket.getOutputStream().write(asked.getBytes(StandardCharsets.US_ASCII));
            BufferedReader in =
                    new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII));
            for (String line = in.readLine(); line != null && !line.isEmpty(); line = in.readLine()) {
                answer.add(line.toLowerCase(java.util.Locale.ROOT));
            }
        }
        assertThat(answer.get(0)).contains("101");
        assertThat(answer).noneMatch(line -> line.startsWith("sec-websocket-extensions"));
    }
}
