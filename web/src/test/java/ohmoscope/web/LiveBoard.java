package ohmoscope.web;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.bench.demo.DemoJobs;
import ohmoscope.bench.demo.LiveJob;
import ohmoscope.bench.standin.StandInBench;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.formats.Bundle;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.store.BenchStore;
import ohmoscope.web.store.BenchStore.Entered;
import ohmoscope.web.store.BenchStore.Role;

/** The demo's live job under a number of a test's own, and the addresses of a stand-in bench of its own. */
public final class LiveBoard {
    private LiveBoard() {}

    /** With the demo's entries. @return the job's id */
    public static long job(Server.Running server, String number) throws Exception {
        return job(server, number, LiveJob.RAIL, List.of());
    }

    /** @param rail the one in question @param entries the demo's own where there are none */
    public static long job(Server.Running server, String number, String rail, List<Observation> entries)
            throws Exception {
        Bundle made = DemoJobs.all().stream()
                .filter(d -> d.id().equals(LiveJob.NUMBER))
                .findFirst()
                .orElseThrow()
                .bundle()
                .get();
        Bundle own = new Bundle(
                new Bundle.Job(number, made.job().title(), made.job().opened()),
                made.board(),
                RailInQuestion.stated(rail),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                entries.isEmpty() ? made.observations() : entries,
                Map.of());
        long id = server.bean(BundleImporter.class).add(own, "bench", share -> true);
        server.bean(JobFile.class).refreshState(id);
        return id;
    }

    /** Enters the instruments of a stand-in. @return the bench's id */
    public static long bench(Server.Running server, String name, StandInBench.Ports ports, Role... roles) {
        BenchStore benches = server.bean(BenchStore.class);
        long id = benches.add(name);
        for (Role role : roles) {
            int port = switch (role) {
                case SUPPLY -> ports.supply();
                case METER -> ports.meter();
                case CAMERA -> ports.camera();
                case INLINE -> ports.inline();
            };
            benches.keep(id, new Entered(role, "127.0.0.1:" + port, "", false, 0.01, 0));
        }
        return id;
    }
}
