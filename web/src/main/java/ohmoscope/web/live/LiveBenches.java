package ohmoscope.web.live;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongToDoubleFunction;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Side;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.BenchStore;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Service;

/** Which benches are in use. A bench is one page's at a time: two hands on one supply are one too many. */
@Service
class LiveBenches implements DisposableBean {
    private final BenchStore benches;
    private final LiveKeeper keeper;
    private final LivePlans plans;
    private final Settings settings;
    private final Map<Long, Session> open = new ConcurrentHashMap<>();
    private final Map<Long, Hands> hands = new ConcurrentHashMap<>();
    /** The job that each was opened for last. */
    private final Map<Long, String> last = new ConcurrentHashMap<>();

    LiveBenches(BenchStore benches, LiveKeeper keeper, LivePlans plans, Settings settings) {
        this.benches = benches;
        this.keeper = keeper;
        this.plans = plans;
        this.settings = settings;
    }

    /** A bench that a page has open. */
    record Session(long bench, String number, LiveBench live, LiveWork work, Optional<Eye> eye)
            implements AutoCloseable {
        @Override
        public void close() {
            live.close();
            work.close();
        }
    }

    List<BenchStore.Named> all() {
        return benches.all();
    }

    /**
     * @throws InvalidMember where it is in use, has no instruments, or one of its addresses is none
     */
    synchronized Session open(long bench, String number, String by) throws IOException {
        Session before = open.get(bench);
        if (before != null) {
            throw new InvalidMember("bench", "is in use for " + before.number() + ": close that page first");
        }
        List<BenchStore.Entered> entered = benches.of(bench);
        if (entered.isEmpty()) {
            throw new InvalidMember("bench", "has no instruments yet: enter their addresses under Benches");
        }
        LivePlans.Plan plan = plans.of(number, by, Side.TOP, OptionalDouble.empty(), Optional.empty());
        Side side = plan.job().bundle().captures().stream()
                .reduce((a, b) -> b)
                .map(c -> c.spec().side())
                .or(() -> plan.places().hot().stream().findFirst().map(p -> p.side()))
                .orElse(Side.TOP);
        long bornNanos = System.nanoTime();
        double startS = LiveKeeper.startS(plan.job());
        LongToDoubleFunction bundleS = nanos -> startS + (nanos - bornNanos) / 1e9;
        Instruments instruments = Instruments.of(entered, settings.dialects(), System::nanoTime, settings.keySilence());
        Optional<Eye> eye = instruments.camera().map(camera -> new Eye(camera, bundleS));
        AtomicLong version = new AtomicLong();
        LiveWork work = new LiveWork(
                number,
                by,
                keeper,
                plans,
                plan.seeing(side),
                eye,
                bundleS,
                version::incrementAndGet,
                hands.getOrDefault(bench, Hands.TECHNICIAN));
        LiveBench live = new LiveBench(instruments, eye, work, version, settings.keySilence());
        eye.ifPresent(Eye::start);
        live.start();
        Session session = new Session(bench, number, live, work, eye);
        open.put(bench, session);
        last.put(bench, number);
        return session;
    }

    /** A stand-in bench has hands of its own. */
    void hands(long bench, Hands standIn) {
        hands.put(bench, standIn);
    }

    void close(Session session) {
        session.close();
        open.remove(session.bench(), session);
    }

    /** The bench that is open for a job; empty where no page has one. */
    Optional<Session> of(String number) {
        return open.values().stream().filter(s -> s.number().equals(number)).findFirst();
    }

    /** The job that it was opened for last, whether or not that page is still there. */
    Optional<String> lastOn(long bench) {
        return Optional.ofNullable(last.get(bench));
    }

    /** Whose it is now; empty where nobody has it open. */
    Optional<String> user(long bench) {
        return Optional.ofNullable(open.get(bench)).map(Session::number);
    }

    @Override
    public void destroy() {
        open.values().forEach(Session::close);
        open.clear();
    }
}
