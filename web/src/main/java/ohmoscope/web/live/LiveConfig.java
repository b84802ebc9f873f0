package ohmoscope.web.live;

import org.springframework.context.annotation.Configuration;
import org.springframework.web.socket.config.annotation.EnableWebSocket;
import org.springframework.web.socket.config.annotation.WebSocketConfigurer;
import org.springframework.web.socket.config.annotation.WebSocketHandlerRegistry;
import org.springframework.web.socket.server.support.DefaultHandshakeHandler;

/** Where live pages call. Only pages of this origin are answered: that is what Spring holds to where no other is named. */
@Configuration
@EnableWebSocket
class LiveConfig implements WebSocketConfigurer {
    private final LiveSocket socket;
    private final RemoteSocket remote;

    LiveConfig(LiveSocket socket, RemoteSocket remote) {
        this.socket = socket;
        this.remote = remote;
    }

    @Override
    public void registerWebSocketHandlers(WebSocketHandlerRegistry registry) {
        DefaultHandshakeHandler plain = new DefaultHandshakeHandler(new PlainLines());
        registry.addHandler(socket, "/jobs/{number}/live/line").setHandshakeHandler(plain);
        registry.addHandler(remote, "/phone/remote/{token}/line").setHandshakeHandler(plain);
    }
}
