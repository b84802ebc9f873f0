package ohmoscope.web.live;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.Mishaps;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.bench.standin.Vices;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.Settings;
import ohmoscope.web.entry.EvidenceChanged;
import ohmoscope.web.store.BenchStore;
import ohmoscope.web.store.BenchStore.Entered;
import ohmoscope.web.store.BenchStore.Role;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** With the demo comes a bench: stand-ins on loopback with the board of one of the demo's jobs behind them. */
@Component
class DemoBench implements DisposableBean {
    private static final Logger LOG = LoggerFactory.getLogger(DemoBench.class);
    private static final String NAME = "stand-in bench";

    private final Settings settings;
    private final BenchStore benches;
    private final JobFile jobs;
    private final LiveBenches live;
    private volatile Optional<StandInBench> standIn = Optional.empty();
    private volatile long bench;
    private String following = LiveJob.NUMBER;
    private int followed;

    DemoBench(Settings settings, BenchStore benches, JobFile jobs, LiveBenches live) {
        this.live = live;
        this.settings = settings;
        this.benches = benches;
        this.jobs = jobs;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        if (settings.demo()) {
            lay(LiveJob.laid(), Mishaps.NONE);
        }
    }

    /** Lays a board on the stand-in bench, and enters its addresses. @return the bench's id */
    long lay(StandInBench.Laid laid, Mishaps mishaps) {
        standIn.ifPresent(StandInBench::close);
        StandInBench fresh = new StandInBench(laid, mishaps, Vices.NONE, 0, StandInBench.Ports.ANY, line -> {});
        standIn = Optional.of(fresh);
        bench = benches.all().stream()
                .filter(b -> b.name().equals(NAME))
                .map(BenchStore.Named::id)
                .findFirst()
                .orElseGet(() -> benches.add(NAME));
        enter(bench, Role.SUPPLY, fresh.ports().supply());
        enter(bench, Role.METER, fresh.ports().meter());
        enter(bench, Role.CAMERA, fresh.ports().camera());
        enter(bench, Role.INLINE, fresh.ports().inline());
        live.hands(bench, handsOf(fresh));
        LOG.info("a stand-in bench is open: {}", fresh.ports());
        return bench;
    }

    private static Hands handsOf(StandInBench bench) {
        return new Hands() {
            @Override
            public void probe(String place) {
                bench.put(place);
            }

            @Override
            public void lead(String ref, String net) {
                bench.lead(ref, net);
            }

            @Override
            public void charger(boolean in) {
                bench.charger(in);
            }
        };
    }

    private void enter(long bench, Role role, int port) {
        benches.keep(bench, new Entered(role, "127.0.0.1:" + port, "", false, 0.01, 0));
    }

    /** What the technician says was done to the board is done to it, whichever job it lies there for: its hands. */
    @TransactionalEventListener(fallbackExecution = true)
    void hands(EvidenceChanged changed) {
        standIn.ifPresent(standing -> {
            try {
                JobFile.Stored job = jobs.withoutTraces(changed.jobId());
                if (job.row().number().equals(live.lastOn(bench).orElse(LiveJob.NUMBER))) {
                    follow(standing, job.row().number(), job.bundle().observations());
                }
            } catch (IOException unreadable) {
                LOG.warn("the stand-in's board could not follow its job", unreadable);
            }
        });
    }

    /** What was done already is not done again; another job's board is this one from now on. */
    private synchronized void follow(StandInBench standing, String number, List<Observation> observations) {
        if (!number.equals(following)) {
            following = number;
            followed = 0;
        }
        for (Observation o : observations) {
            if (o.seq() > followed) {
                followed = o.seq();
                done(standing, o);
            }
        }
    }

    private static void done(StandInBench bench, Observation observation) {
        if (observation instanceof Change change) {
            if (change.action() == ChangeAction.REMOVED) {
                bench.remove(change.target());
            } else if (change.action() == ChangeAction.FITTED || change.action() == ChangeAction.REPLACED) {
                bench.fit(change.target());
            }
        }
    }

    @Override
    public void destroy() {
        standIn.ifPresent(StandInBench::close);
    }
}
