package ohmoscope.web.live;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.imaging.LockIn;
import ohmoscope.core.imaging.WarmWatch;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.socket.BinaryMessage;
import org.springframework.web.socket.CloseStatus;
import org.springframework.web.socket.TextMessage;
import org.springframework.web.socket.WebSocketSession;
import org.springframework.web.socket.handler.TextWebSocketHandler;
import org.springframework.web.util.UriComponentsBuilder;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The line between a page and its bench. The page says what the hand does; it is told how things stand whenever that changes,
 * and gets the newest picture when it asks for one: it draws at its own pace, and nothing is queued.
 */
@Component
class LiveSocket extends TextWebSocketHandler {
    private static final Logger LOG = LoggerFactory.getLogger(LiveSocket.class);
    private static final int LONGEST = 8_192;
    private static final long LOOK_MS = 15;
    /** What a picture shows. */
    static final int HEIGHT = 0;

    static final int LAG = 1;
    private static final int NO_VALUE = 255;
    private static final int MOST_BYTE = 254;
    private static final double LOCKED_EVERY_S = 0.5;
    private static final int STATE_EVERY = 4;
    private static final int TRACE_EVERY = 16;

    private final LiveBenches benches;
    private final JsonMapper mapper;
    private final Map<String, Line> lines = new ConcurrentHashMap<>();

    LiveSocket(LiveBenches benches, JsonMapper mapper) {
        this.benches = benches;
        this.mapper = mapper;
    }

    /** One page's line. */
    private final class Line implements Runnable {
        private final WebSocketSession socket;
        private final LiveBenches.Session session;
        private volatile boolean closed;
        private volatile boolean picture;
        private long told = -1;
        private long shown;
        private double lockedS = Double.NEGATIVE_INFINITY;
        private Optional<Laying> laid = Optional.empty();

        Line(WebSocketSession socket, LiveBenches.Session session) {
            this.socket = socket;
            this.session = session;
        }

        /** The only thread that sends. */
        @Override
        public void run() {
            try {
                for (long i = 0; !closed && socket.isOpen(); i++) {
                    if (i % STATE_EVERY == 0) {
                        state();
                        shapes();
                    }
                    if (i % TRACE_EVERY == 0) {
                        trace();
                    }
                    if (picture) {
                        picture();
                    }
                    TimeUnit.MILLISECONDS.sleep(LOOK_MS);
                }
            } catch (IOException | RuntimeException gone) {
                LOG.debug("a live page is gone", gone);
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
            } finally {
                end(this);
            }
        }

        private void state() throws IOException {
            long now = session.live().version();
            if (now != told) {
                told = now;
                socket.sendMessage(new TextMessage(
                        mapper.writeValueAsString(Map.of("state", session.live().state()))));
            }
        }

        /** The board over the picture, whenever that was laid anew. */
        private void shapes() throws IOException {
            Optional<Laying> now = session.work().laying();
            if (now.isPresent() && !now.equals(laid)) {
                laid = now;
                socket.sendMessage(new TextMessage(mapper.writeValueAsString(
                        Map.of("shapes", session.work().shapes(now.get())))));
            }
        }

        /** What an inline meter records, some four times a second. */
        private void trace() throws IOException {
            Optional<InlineTrace.Drawing> drawing = session.live().drawing();
            if (drawing.isPresent()) {
                socket.sendMessage(new TextMessage(mapper.writeValueAsString(Map.of("trace", drawing.get()))));
            }
        }

        private void picture() throws IOException {
            Optional<Eye.View> view = session.eye().flatMap(Eye::view);
            if (view.isPresent()
                    && view.get().number() != shown
                    && view.get().seen().risesK().length > 0) {
                shown = view.get().number();
                picture = false;
                WarmWatch.Seen seen = view.get().seen();
                socket.sendMessage(new BinaryMessage(
                        bytes(HEIGHT, view.get().width(), view.get().height(), seen.risesK())));
                locked(view.get());
            }
        }

        /** Beside the height, while pulses run: how late each place swings. */
        private void locked(Eye.View view) throws IOException {
            if (view.tS() - lockedS < LOCKED_EVERY_S) {
                return;
            }
            lockedS = view.tS();
            Optional<LockIn.Picture> picture =
                    session.eye().flatMap(Eye::locked).filter(p -> p.lagS().length == view.width() * view.height());
            if (picture.isPresent()) {
                socket.sendMessage(new BinaryMessage(
                        bytes(LAG, view.width(), view.height(), picture.get().lagS())));
            }
        }
    }

    /**
     * What it is, width, height, lowest and highest value, then a byte a pixel between these two; 255 where there is no value.
     *
     * @param kind {@link #HEIGHT} in kelvin, or {@link #LAG} in seconds
     */
    static ByteBuffer bytes(int kind, int width, int height, float[] values) {
        float low = Float.POSITIVE_INFINITY;
        float high = Float.NEGATIVE_INFINITY;
        for (float v : values) {
            low = v < low ? v : low;
            high = v > high ? v : high;
        }
        float from = Float.isFinite(low) ? low : 0;
        float span = Math.max(1e-6f, high - from);
        ByteBuffer buffer = ByteBuffer.allocate(20 + values.length);
        buffer.putInt(kind).putInt(width).putInt(height).putFloat(from).putFloat(from + span);
        float steps = MOST_BYTE / span;
        for (float v : values) {
            buffer.put((byte) (Float.isNaN(v) ? NO_VALUE : (int) (steps * (v - from) + 0.5f)));
        }
        return buffer.flip();
    }

    @Override
    public void afterConnectionEstablished(WebSocketSession socket) throws Exception {
        socket.setTextMessageSizeLimit(LONGEST);
        String path = String.valueOf(socket.getUri()).replaceFirst("\\?.*$", "");
        List<String> parts =
                UriComponentsBuilder.fromUri(socket.getUri()).build().getPathSegments();
        String number = java.net.URLDecoder.decode(
                parts.get(parts.indexOf("jobs") + 1), java.nio.charset.StandardCharsets.UTF_8);
        String bench = UriComponentsBuilder.fromUri(socket.getUri())
                .build()
                .getQueryParams()
                .getFirst("bench");
        try {
            if (bench == null || !bench.matches("\\d{1,18}")) {
                throw new InvalidMember("bench", "is missing");
            }
            String by = socket.getPrincipal() == null
                    ? "bench"
                    : socket.getPrincipal().getName();
            LiveBenches.Session session = benches.open(Long.parseLong(bench), number, by);
            Line line = new Line(socket, session);
            lines.put(socket.getId(), line);
            Thread thread = new Thread(line, "live line");
            thread.setDaemon(true);
            thread.start();
        } catch (InvalidMember | IOException refused) {
            socket.sendMessage(new TextMessage(
                    mapper.writeValueAsString(Map.of("refused", String.valueOf(refused.getMessage())))));
            socket.close(CloseStatus.NORMAL);
        } catch (RuntimeException odd) {
            LOG.warn("a live page could not be opened at {}", path, odd);
            socket.close(CloseStatus.SERVER_ERROR);
        }
    }

    @Override
    protected void handleTextMessage(WebSocketSession socket, TextMessage message) {
        Line line = lines.get(socket.getId());
        if (line == null) {
            return;
        }
        try {
            act(line, mapper.readTree(message.getPayload()));
        } catch (InvalidMember unknown) {
            line.session.live().wrong(unknown);
        } catch (JacksonException none) {
            LOG.debug("a live page said something that is no JSON");
        }
    }

    private static void act(Line line, JsonNode said) {
        LiveBench live = line.session.live();
        LiveWork work = line.session.work();
        switch (said.path("do").asString("")) {
            case "hold" -> live.press(said.path("step").asInt(-1));
            case "step" -> work.choose(said.path("step").asInt(-1));
            case "check" -> live.pressCheck();
            case "leads" -> live.pressLeads();
            case "alive" -> live.alive();
            case "release" -> live.release();
            case "picture" -> line.picture = true;
            case "moved" -> {
                work.hotLead(said.path("place").asInt(0));
                live.leadsMoved();
            }
            case "battery" -> live.batteryOut();
            case "powered" -> live.powered(said.path("on").asBoolean(false));
            case "tap" -> live.tap();
            case "again" -> live.again();
            case "by-eye" -> {
                String means = said.path("means").asString("");
                live.byEye(means.isEmpty() ? Optional.empty() : Optional.of(LiveEye.Means.of(means)));
            }
            case "mark" -> live.mark(said.path("ref").asString(""));
            case "keep-mark" -> live.keepMark();
            case "walk" -> live.walk(said.path("on").asBoolean(false));
            case "ends" ->
                live.ends(said.path("on").asBoolean(false), said.path("ref").asString(""));
            case "read" -> {
                boolean ohms = said.path("mode").asString("").equals("ohms");
                live.read(ohms ? ReadMode.OHMS : ReadMode.DIODE);
            }
            case "side" -> work.side(said.path("side").asString("").equals("BOTTOM") ? Side.BOTTOM : Side.TOP);
            case "snap" -> work.snap();
            case "lay" -> work.lay(pixels(said.path("pixels")));
            default -> {
                // A newer page's word.
            }
        }
    }

    private static List<double[]> pixels(JsonNode node) {
        List<double[]> pixels = new ArrayList<>();
        for (JsonNode one : node) {
            double x = one.path(0).asDouble(Double.NaN);
            double y = one.path(1).asDouble(Double.NaN);
            if (!(Math.abs(x) < 1e5 && Math.abs(y) < 1e5)) {
                return List.of();
            }
            pixels.add(new double[] {x, y});
        }
        return pixels;
    }

    @Override
    public void handleTransportError(WebSocketSession socket, Throwable broken) {
        Optional.ofNullable(lines.get(socket.getId())).ifPresent(this::end);
    }

    /** The page was closed, or its line broke: what flows ends at once. */
    @Override
    public void afterConnectionClosed(WebSocketSession socket, CloseStatus status) {
        Optional.ofNullable(lines.get(socket.getId())).ifPresent(this::end);
    }

    private void end(Line line) {
        line.closed = true;
        if (lines.remove(line.socket.getId()) != null) {
            benches.close(line.session);
        }
    }
}
