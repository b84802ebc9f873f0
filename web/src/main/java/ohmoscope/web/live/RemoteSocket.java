package ohmoscope.web.live;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import ohmoscope.web.config.Settings;
import ohmoscope.web.phone.PhoneLinks;
import ohmoscope.web.phone.PhoneLinks.Purpose;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.socket.CloseStatus;
import org.springframework.web.socket.TextMessage;
import org.springframework.web.socket.WebSocketSession;
import org.springframework.web.socket.handler.TextWebSocketHandler;
import org.springframework.web.util.UriComponentsBuilder;
import tools.jackson.databind.json.JsonMapper;

/**
 * The line between a telephone and the bench of its job: a key that is held, let go, or tapped, and nothing else. It needs a
 * page that has the bench open; what the key does is what that page's own key would do.
 */
@Component
class RemoteSocket extends TextWebSocketHandler {
    private static final Logger LOG = LoggerFactory.getLogger(RemoteSocket.class);
    private static final int LONGEST = 256;
    private static final long LOOK_MS = 100;

    private final LiveBenches benches;
    private final PhoneLinks links;
    private final Settings settings;
    private final JsonMapper mapper;
    private final Map<String, String> jobs = new ConcurrentHashMap<>();

    RemoteSocket(LiveBenches benches, PhoneLinks links, Settings settings, JsonMapper mapper) {
        this.benches = benches;
        this.links = links;
        this.settings = settings;
        this.mapper = mapper;
    }

    /** What a telephone shows. @param volts of the meter while the board is powered, else of the supply; empty words else */
    record Shown(boolean there, String words, String tone, String key, String volts, String amps, boolean on) {
        static final Shown NOBODY =
                new Shown(false, "Open the job's Live page at the bench first.", "look", "", "", "", false);
    }

    @Override
    public void afterConnectionEstablished(WebSocketSession socket) throws Exception {
        socket.setTextMessageSizeLimit(LONGEST);
        List<String> parts =
                UriComponentsBuilder.fromUri(socket.getUri()).build().getPathSegments();
        Optional<String> job =
                links.job(parts.get(parts.size() - 2), Purpose.REMOTE).filter(n -> settings.phone());
        if (job.isEmpty()) {
            socket.close(CloseStatus.POLICY_VIOLATION);
            return;
        }
        jobs.put(socket.getId(), job.get());
        Thread thread = new Thread(() -> tell(socket, job.get()), "remote line");
        thread.setDaemon(true);
        thread.start();
    }

    /** The only thread that sends. */
    private void tell(WebSocketSession socket, String job) {
        Optional<Shown> told = Optional.empty();
        try {
            while (socket.isOpen()) {
                Shown now = benches.of(job).map(s -> shown(s.live().state())).orElse(Shown.NOBODY);
                if (!told.equals(Optional.of(now))) {
                    told = Optional.of(now);
                    socket.sendMessage(new TextMessage(mapper.writeValueAsString(now)));
                }
                TimeUnit.MILLISECONDS.sleep(LOOK_MS);
            }
        } catch (IOException | RuntimeException gone) {
            LOG.debug("a telephone is gone", gone);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    private static Shown shown(LiveState state) {
        LiveState.Powered powered = state.powered();
        if (powered != null) {
            String verdict = powered.verdict() == null
                    ? powered.asked()
                    : powered.verdict().headline();
            return new Shown(true, verdict, "plain", "tap", number(powered.volts(), 3, " V"), "", true);
        }
        boolean checked = state.check() != null && state.check().ok();
        return new Shown(
                true,
                state.words(),
                state.tone(),
                checked ? "hold" : "check",
                number(state.shown().volts(), 3, " V"),
                number(state.shown().amps(), 2, " A"),
                state.shown().on());
    }

    private static String number(@org.jspecify.annotations.Nullable Double value, int digits, String unit) {
        return value == null ? "" : ohmoscope.web.kit.Eng.fixed(value, digits) + unit;
    }

    @Override
    protected void handleTextMessage(WebSocketSession socket, TextMessage message) {
        Optional.ofNullable(jobs.get(socket.getId()))
                .flatMap(benches::of)
                .ifPresent(session -> act(session.live(), message.getPayload()));
    }

    private static void act(LiveBench live, String what) {
        switch (what) {
            case "press" -> live.pressKey();
            case "alive" -> live.alive();
            case "release" -> live.release();
            default -> {
                // A newer page's word.
            }
        }
    }

    /** The telephone is gone: what its key held ends at once. */
    @Override
    public void afterConnectionClosed(WebSocketSession socket, CloseStatus status) {
        Optional.ofNullable(jobs.remove(socket.getId()))
                .flatMap(benches::of)
                .ifPresent(session -> session.live().release());
    }
}
