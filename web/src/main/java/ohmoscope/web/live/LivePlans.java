package ohmoscope.web.live;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import ohmoscope.core.board.Side;
import ohmoscope.core.diagnose.Stop;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.BatteryState;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.formats.AdviceWords;
import ohmoscope.formats.Texts;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.inject.InjectView.Given;
import ohmoscope.web.inject.Planned;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.store.MeansStore;
import org.springframework.stereotype.Service;

/** What a live bench may do next with a job, from its evidence as it is. */
@Service
class LivePlans {
    private static final Set<String> FORBID =
            Set.of("over-nominal", "battery-connected", "hot-board", "flammable", "lead-rating", "cell", "liquid");

    private final OpenJobs openJobs;
    private final Judge judge;
    private final MeansStore means;

    LivePlans(OpenJobs openJobs, Judge judge, MeansStore means) {
        this.openJobs = openJobs;
        this.judge = judge;
        this.means = means;
    }

    /**
     * @param opened the job with what its evidence came to
     * @param given what there is to work with
     * @param places where the leads go
     * @param side what the camera sees
     * @param stop what forbids current now, as a sentence
     */
    record Plan(
            OpenJobs.Open opened,
            Given given,
            Planned planned,
            InjectionPlaces places,
            Side side,
            Optional<String> stop) {
        JobFile.Stored job() {
            return opened.job();
        }

        Plan seeing(Side other) {
            return new Plan(opened, given, planned, places, other, stop);
        }
    }

    /** @param leadOhms as measured in this session; as kept or entered where it was not @param pixelMm likewise */
    Plan of(String number, String by, Side side, OptionalDouble leadOhms, Optional<Double> pixelMm) throws IOException {
        OpenJobs.Open open = openJobs.open(number, () -> by);
        Given usual = Given.usual(means.of(by));
        Given given = new Given(
                leadOhms.orElse(usual.leadOhms()),
                usual.leadRatedA(),
                usual.mostV(),
                usual.mostA(),
                pixelMm.orElse(usual.pixelMm()),
                usual.noiseK(),
                usual.framesPerS(),
                usual.wantedMm());
        String rail = open.job().bundle().rail();
        Set<String> joined = judge.joined(open.job(), rail, open.advice().now());
        return new Plan(open, given, Planned.of(open, joined, given), Planned.places(open, rail), side, stop(open));
    }

    /** Where the leads go on another net of the same job, as it was planned. */
    InjectionPlaces places(Plan plan, String net) {
        return Planned.places(plan.opened(), net);
    }

    /** The job with what its evidence comes to now. */
    OpenJobs.Open open(String number, String by) throws IOException {
        return openJobs.open(number, () -> by);
    }

    private static Optional<String> stop(OpenJobs.Open open) {
        for (Stop stop : open.advice().stops()) {
            if (stop.reason() == Stop.Reason.TWO_SOURCES || stop.reason() == Stop.Reason.REVERSED) {
                return Optional.of(AdviceWords.stop(stop));
            }
        }
        Optional<String> forbidden = AdviceView.stops(open).stream()
                .filter(s -> FORBID.contains(s.code()))
                .map(AdviceView.StopLine::sentence)
                .findFirst();
        return forbidden.or(() -> batteryOut(open.job().bundle().observations())
                ? Optional.empty()
                : Optional.of(Texts.of("live.battery")));
    }

    /** Whether somebody said so; a device without one has it out too. */
    static boolean batteryOut(List<Observation> observations) {
        boolean out = false;
        for (Observation o : observations) {
            if (o instanceof Change change && change.target().equals(Change.BATTERY)) {
                out = change.action() != ChangeAction.CONNECTED;
            } else if (o instanceof Power power && power.battery().isPresent()) {
                out = power.battery().get() != BatteryState.IN;
            }
        }
        return out;
    }
}
