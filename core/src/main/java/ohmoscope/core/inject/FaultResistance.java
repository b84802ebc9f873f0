package ohmoscope.core.inject;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Rail;
import ohmoscope.core.evidence.Injection;
import ohmoscope.core.evidence.SupplyLog;
import ohmoscope.core.evidence.SupplyLog.Row;
import ohmoscope.core.reading.LeadOhms;
import ohmoscope.core.reading.Thresholds;

/**
 * What is left of the supply's volts over amperes when leads and known series parts are taken off.
 *
 * @param measuredOhms best estimate of short plus unknown copper; below 0 where the leads were taken for too much
 * @param sigmaOhms one standard deviation of that
 * @param totalOhms what the supply saw
 * @param amps mean current while on
 * @param volts mean volts at the supply while on
 */
public record FaultResistance(double measuredOhms, double sigmaOhms, double totalOhms, double amps, double volts) {
    /** What is softer than this is no short that a supply is set on. */
    private static final double MOST_OHMS = 2;

    private static final int NODES = 60;

    /** However near to nothing a reading is, contacts may have taken the rest of it. */
    private static final double MOST_TELLING = 30;

    /** A series part's printed resistance against its real one. */
    private static final double SERIES_RELATIVE_SIGMA = 0.15;

    /**
     * @return empty when the log holds no row with measurable current while on
     */
    public static Optional<FaultResistance> from(SupplyLog log, Optional<Injection> injection, Rail rail) {
        List<Row> on = log.rows().stream().filter(Row::output).toList();
        double amps2 = 0;
        double product = 0;
        double ampsSum = 0;
        double voltsSum = 0;
        for (Row row : on) {
            amps2 += row.amps() * row.amps();
            product += row.amps() * row.volts();
            ampsSum += row.amps();
            voltsSum += row.volts();
        }
        if (on.isEmpty() || !(ampsSum / on.size() > MIN_AMPS)) {
            return Optional.empty();
        }
        double total = product / amps2;
        double squares = 0;
        for (Row row : on) {
            squares += Math.pow(row.volts() - total * row.amps(), 2);
        }
        double slopeSigma = on.size() < 2 ? 0.02 * total : Math.sqrt(squares / (on.size() - 1) / amps2);
        LeadOhms leads = LeadOhms.of(
                injection.map(Injection::leadOhms).orElse(OptionalDouble.empty()),
                injection.map(Injection::leadSigmaOhms).orElse(OptionalDouble.empty()));
        double series = rail.path().stream()
                .mapToDouble(part -> part.resistanceOhms().orElse(0))
                .sum();
        double ohms = total - leads.ohms() - series - LeadOhms.COPPER_OHMS;
        double sigma = Math.sqrt(slopeSigma * slopeSigma
                + Math.pow(leads.sigmaWithCopper(), 2)
                + Math.pow(SERIES_RELATIVE_SIGMA * series, 2));
        return Optional.of(new FaultResistance(ohms, sigma, total, ampsSum / on.size(), voltsSum / on.size()));
    }

    /** Best estimate of short plus unknown copper, never below 0. */
    public double ohms() {
        return Math.max(0, measuredOhms);
    }

    /** One end of the two-sigma range, never below 0. */
    public double low() {
        return Math.max(0, measuredOhms - 2 * sigmaOhms);
    }

    /** The other end. */
    public double high() {
        return Math.max(0, measuredOhms + 2 * sigmaOhms);
    }

    /**
     * How much likelier this reading is with the leads on nothing but copper (injected into ground) than with a short of
     * any resistance between them, each decade as likely as the other.
     */
    public double groundOverFault() {
        double fault = 0;
        for (int i = 0; i < NODES; i++) {
            double at =
                    Thresholds.LEAST_SHORT_OHMS * Math.pow(MOST_OHMS / Thresholds.LEAST_SHORT_OHMS, (i + 0.5) / NODES);
            fault += likelihood(at) / NODES;
        }
        return fault > 0 ? Math.min(MOST_TELLING, likelihood(0) / fault) : 0;
    }

    /** How well the reading suits a fault of so many ohms, 1 where best. */
    private double likelihood(double faultOhms) {
        double off = (measuredOhms - faultOhms) / sigmaOhms;
        return Math.exp(-off * off / 2);
    }

    /** Below this the supply's own last digit speaks. */
    public static final double MIN_AMPS = 0.005;

    /** Heat released at the fault while on, watts. */
    public double watts() {
        return amps * amps * ohms();
    }

    public double wattsHigh() {
        return amps * amps * high();
    }

    /** Heat in a series part that carries the whole current, watts; 0 when its resistance is unknown. */
    public double wattsIn(Part part) {
        return amps * amps * part.resistanceOhms().orElse(0);
    }

    /** Whether leads, series parts and copper explain everything within two sigma. */
    public boolean explainedWithoutFault() {
        return low() <= 0;
    }
}
