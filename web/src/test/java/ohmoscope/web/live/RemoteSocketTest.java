package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.atLeastOnce;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.net.URI;
import java.time.Duration;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.Vices;
import ohmoscope.web.LiveBoard;
import ohmoscope.web.Server;
import ohmoscope.web.config.Settings;
import ohmoscope.web.phone.PhoneLinks;
import ohmoscope.web.phone.PhoneLinks.Purpose;
import ohmoscope.web.store.BenchStore.Role;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.web.socket.CloseStatus;
import org.springframework.web.socket.TextMessage;
import org.springframework.web.socket.WebSocketSession;
import tools.jackson.databind.json.JsonMapper;

/** A telephone as the key: it holds while it says so, and no longer. */
@ExtendWith(Server.class)
class RemoteSocketTest {
    private final WebSocketSession phone = mock(WebSocketSession.class);

    private static RemoteSocket socket(Server.Running server, PhoneLinks links, boolean on) {
        Settings all = server.bean(Settings.class);
        return new RemoteSocket(
                server.bean(LiveBenches.class),
                links,
                new Settings(all.workFolder(), all.dialects(), all.demo(), on, all.keySilence()),
                server.bean(JsonMapper.class));
    }

    private void calls(String token) {
        when(phone.getId()).thenReturn("phone");
        when(phone.isOpen()).thenReturn(true);
        when(phone.getUri()).thenReturn(URI.create("ws://127.0.0.1/phone/remote/" + token + "/line"));
    }

    private static void held(RemoteSocket socket, WebSocketSession by, long millis) throws Exception {
        for (long i = 0; i < millis; i += 50) {
            socket.handleMessage(by, new TextMessage("alive"));
            Thread.sleep(50);
        }
    }

    @Test
    void itHoldsTheKeyOfTheBenchThatAPageHasOpen(Server.Running server) throws Exception {
        LiveBoard.job(server, "R-1");
        try (StandInBench standIn =
                new StandInBench(LiveJob.laid(), Mishaps.NONE, Vices.NONE, 0, StandInBench.Ports.ANY, line -> {})) {
            long id = LiveBoard.bench(server, "bench of a telephone", standIn.ports(), Role.SUPPLY, Role.METER);
            LiveBenches benches = server.bean(LiveBenches.class);
            PhoneLinks links = server.bean(PhoneLinks.class);
            RemoteSocket socket = socket(server, links, true);
            calls(links.open("R-1", Purpose.REMOTE));
            // Nobody has the bench open: a key that does nothing.
            socket.afterConnectionEstablished(phone);
            socket.handleMessage(phone, new TextMessage("press"));
            LiveBenches.Session session = benches.open(id, "R-1", "bench");
            Thread.sleep(600);
            assertThat(standIn.outputOn()).isFalse();
            // The contact first, then the step that the page has chosen.
            for (int i = 0; i < 5 && !session.live().state().steps().ready(); i++) {
                socket.handleMessage(phone, new TextMessage("press"));
                held(socket, phone, 2500);
                socket.handleMessage(phone, new TextMessage("release"));
                Thread.sleep(500);
            }
            assertThat(session.live().state().steps().ready()).isTrue();
            socket.handleMessage(phone, new TextMessage("press"));
            held(socket, phone, 1500);
            await().atMost(Duration.ofSeconds(3)).until(() -> {
                socket.handleMessage(phone, new TextMessage("alive"));
                return standIn.outputOn();
            });
            socket.afterConnectionClosed(phone, CloseStatus.GOING_AWAY);
            await().atMost(Duration.ofMillis(1500)).until(() -> !standIn.outputOn());
            verify(phone, atLeastOnce()).sendMessage(any());
            benches.close(session);
        }
    }

    @Test
    void whoMayBringPicturesHoldsNoKey(Server.Running server) throws Exception {
        PhoneLinks links = server.bean(PhoneLinks.class);
        calls(links.open("R-2", Purpose.PICTURES));
        socket(server, links, true).afterConnectionEstablished(phone);
        verify(phone).close(CloseStatus.POLICY_VIOLATION);
        verify(phone, never()).sendMessage(any());
    }

    @Test
    void nobodyDoesWhereTelephonesAreSwitchedOff(Server.Running server) throws Exception {
        PhoneLinks links = server.bean(PhoneLinks.class);
        calls(links.open("R-3", Purpose.REMOTE));
        socket(server, links, false).afterConnectionEstablished(phone);
        verify(phone).close(CloseStatus.POLICY_VIOLATION);
    }
}
