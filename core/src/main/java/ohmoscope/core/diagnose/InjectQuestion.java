package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Set;
import ohmoscope.core.circuit.BoardState;
import ohmoscope.core.circuit.Fault;
import ohmoscope.core.circuit.Twin.Injected;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.reading.LeadOhms;

/** What flowed when a rail was fed. */
record InjectQuestion(Inject inject, BoardState state, Predictor predictor) implements Question {
    private static final double WRONG_INJECTION = 0.05;
    /** Range of ln ohms that a supply and its leads can show. */
    private static final double SPAN = 14;
    /** ln ohms: what the supply's two displays are worth. */
    private static final double SUPPLY_SIGMA = 0.12;
    /** Above a few ohms what hangs on the rail decides, and boards differ. */
    private static final double LOADS_SIGMA = 1.5;

    private static final double LOADS_OHMS = 5;

    @Override
    public Set<String> nets() {
        return predictor.island(inject.net(), state);
    }

    @Override
    public double of(List<Fault> faults) {
        LeadOhms leads = LeadOhms.of(inject.leadOhms());
        double set = inject.setVolts().orElse(inject.volts().getAsDouble());
        double limit = inject.limitAmps().orElse(Math.max(1, 1.2 * inject.amps().getAsDouble()));
        Injected predicted = predictor.inject(inject.net(), set, Math.max(1e-3, limit), leads.ohms(), state, faults);
        double measured =
                inject.volts().getAsDouble() / Math.max(1e-4, inject.amps().getAsDouble());
        double expected = predicted.volts() / Math.max(1e-4, predicted.amps());
        double sigma = Math.hypot(
                expected > LOADS_OHMS ? LOADS_SIGMA : SUPPLY_SIGMA, leads.sigmaWithCopper() / (expected + 0.01));
        double density = Density.normal(Math.log(measured + 0.01), Math.log(expected + 0.01), sigma);
        return Math.log(Density.mixed(density, WRONG_INJECTION, SPAN));
    }

    @Override
    public double most() {
        return Math.log(Density.mixed(Density.peak(SUPPLY_SIGMA), WRONG_INJECTION, SPAN));
    }
}
