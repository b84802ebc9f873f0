package ohmoscope.web.live;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.security.Principal;
import java.util.Collections;
import java.util.Enumeration;
import java.util.List;
import java.util.Map;
import org.springframework.http.server.ServerHttpRequest;
import org.springframework.http.server.ServerHttpResponse;
import org.springframework.http.server.ServletServerHttpRequest;
import org.springframework.web.socket.WebSocketExtension;
import org.springframework.web.socket.WebSocketHandler;
import org.springframework.web.socket.WebSocketHttpHeaders;
import org.springframework.web.socket.server.standard.StandardWebSocketUpgradeStrategy;

/**
 * Web sockets without compression: a picture of noise hardly shrinks, and packing it cost several times what making it does.
 * The container agrees with a browser that offers it whatever the handler says; so it does not hear the offer.
 */
final class PlainLines extends StandardWebSocketUpgradeStrategy {
    @Override
    public void upgrade(
            ServerHttpRequest request,
            ServerHttpResponse response,
            String protocol,
            List<WebSocketExtension> extensions,
            Principal user,
            WebSocketHandler handler,
            Map<String, Object> attributes) {
        ServerHttpRequest unoffered = new ServletServerHttpRequest(new Unoffered(getHttpServletRequest(request)));
        super.upgrade(unoffered, response, protocol, List.of(), user, handler, attributes);
    }

    private static final class Unoffered extends HttpServletRequestWrapper {
        Unoffered(HttpServletRequest request) {
            super(request);
        }

        @Override
        public Enumeration<String> getHeaders(String name) {
            return WebSocketHttpHeaders.SEC_WEBSOCKET_EXTENSIONS.equalsIgnoreCase(name)
                    ? Collections.emptyEnumeration()
                    : super.getHeaders(name);
        }
    }
}
