package ohmoscope.web.sheet;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.ReadingVerdict;
import ohmoscope.core.inject.FaultResistance;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.prove.NextStep;
import ohmoscope.core.prove.Proof;
import ohmoscope.core.prove.Walk;
import ohmoscope.formats.Bundle;
import ohmoscope.formats.LocateJson;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.analysis.StoredAnalysis;
import ohmoscope.web.store.EvidenceStore;

/** Everything the job sheet shows, in words and shapes. */
public record SheetView(
        String number,
        String title,
        String device,
        String rail,
        String railVolts,
        List<WalkStop> walk,
        List<Strip> evidence,
        List<CaptureLink> captures,
        List<BoardPicture> pictures,
        Side firstSide,
        List<Figure> figures,
        String injectionMeaning,
        Step next,
        List<SuspectLine> suspects,
        String rest,
        List<Caution> warnings,
        Optional<AgainReading> again,
        List<String> places) {
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT);
    private static final int LISTED = 5;
    private static final double HARD_SHORT_OHMS = 0.1;
    private static final double CHIP_LIKE_OHMS = 1;

    /** @param note a small line below, empty for none */
    public record WalkStop(String name, String state, String note) {}

    /** @param mark bad, ok, look, done or plain: the shape in front */
    public record Strip(int seq, String time, String mark, String markWord, String headline, String meaning) {}

    /** A capture in the evidence column. */
    public record CaptureLink(String id, String side, int frames, String words) {}

    /** A number under the board. */
    public record Figure(String number, String unit, String what) {}

    /** @param action what the button does: lift, none */
    public record Step(String sentence, String why, String act, String target, List<String> cautions) {}

    /** A suspect in the list. */
    public record SuspectLine(int rank, String ref, String words, String percent, boolean liftable) {}

    /** A warning in a sentence. */
    public record Caution(String code, String text) {}

    /** The reading that is wanted after a change. */
    public record AgainReading(String where, String mode, String unit, String before) {}

    public static SheetView of(JobFile.Stored job, Optional<StoredAnalysis> analysis, Walk walk, ZoneId zone) {
        Bundle bundle = job.bundle();
        Board board = bundle.board();
        Proof proof = Proof.of(board, bundle.rail(), bundle.observations());
        NextStep step = NextStep.of(board, analysis.map(a -> a.onBoard(board)), proof);
        List<BoardPicture> pictures = List.of(
                BoardPicture.of(board, bundle.rail(), Side.TOP, bundle.injection(), analysis),
                BoardPicture.of(board, bundle.rail(), Side.BOTTOM, bundle.injection(), analysis));
        return new SheetView(
                bundle.job().id(),
                bundle.job().title(),
                board.name() + (board.revision().isEmpty() ? "" : ", rev " + board.revision()),
                bundle.rail(),
                board.net(bundle.rail())
                        .flatMap(n -> n.nominalVolts().isPresent()
                                ? Optional.of(Eng.significant(n.nominalVolts().getAsDouble(), 2))
                                : Optional.empty())
                        .map(v -> v + " V")
                        .orElse(""),
                walk.stops().stream()
                        .map(s -> new WalkStop(
                                Words.of(s.step()),
                                s.state().name().toLowerCase(Locale.ROOT).replace('_', '-'),
                                Words.note(s).orElse("")))
                        .toList(),
                job.entries().stream()
                        .map(e -> strip(board, e, job.row().importedAt(), zone))
                        .toList(),
                captures(bundle, analysis),
                pictures,
                firstSide(bundle, analysis),
                figures(analysis),
                meaning(analysis.flatMap(StoredAnalysis::resistance)),
                StepWords.of(step, bundle.rail()),
                suspects(board, analysis),
                rest(board, bundle.rail(), analysis),
                warnings(analysis),
                again(proof),
                places(board));
    }

    private static Side firstSide(Bundle bundle, Optional<StoredAnalysis> analysis) {
        return analysis.flatMap(StoredAnalysis::source)
                .map(s -> s.side())
                .orElse(
                        bundle.captures().isEmpty()
                                ? Side.TOP
                                : bundle.captures().get(0).spec().side());
    }

    private static Strip strip(Board board, EvidenceStore.Entry entry, Instant importedAt, ZoneId zone) {
        Observation observation = entry.observation();
        ReadingVerdict verdict = observation instanceof Read read
                ? ReadingVerdict.of(board, read)
                : new ReadingVerdict(ReadingVerdict.Kind.NO_EXPECTATION, Optional.empty());
        String[] mark = mark(observation, verdict);
        return new Strip(
                observation.seq(),
                // A bundle's entries carry an order, not times of their own.
                entry.recordedAt().equals(importedAt)
                        ? ""
                        : TIME.format(entry.recordedAt().atZone(zone)),
                mark[0],
                mark[1],
                Words.headline(observation),
                Words.meaning(observation, verdict));
    }

    private static String[] mark(Observation observation, ReadingVerdict verdict) {
        if (observation instanceof Read) {
            return switch (verdict.kind()) {
                case DEAD_SHORT, PARTIAL_SHORT, BELOW_RANGE -> new String[] {"bad", "wrong"};
                case IN_RANGE -> new String[] {"ok", "good"};
                case ABOVE_RANGE, OVER_RANGE -> new String[] {"look", "look at this"};
                case NO_EXPECTATION -> new String[] {"plain", "noted"};
            };
        }
        if (observation instanceof Look look) {
            return look.finding() == LookFinding.CLEAN
                    ? new String[] {"ok", "good"}
                    : new String[] {"look", "look at this"};
        }
        if (observation instanceof Observation.Change) {
            return new String[] {"done", "done"};
        }
        return new String[] {"plain", "noted"};
    }

    private static List<CaptureLink> captures(Bundle bundle, Optional<StoredAnalysis> analysis) {
        return bundle.captures().stream()
                .map(c -> new CaptureLink(
                        c.spec().id(),
                        c.spec().side().name().toLowerCase(Locale.ROOT),
                        c.spec().frameCount(),
                        analysis.flatMap(a -> a.capture(c.spec().id()))
                                .map(f -> "Warmest place up " + Eng.significant(f.hottestK(), 2) + " K.")
                                .orElse("Not looked into yet.")))
                .toList();
    }

    private static List<Figure> figures(Optional<StoredAnalysis> analysis) {
        Optional<FaultResistance> resistance = analysis.flatMap(StoredAnalysis::resistance);
        if (resistance.isEmpty()) {
            return List.of();
        }
        FaultResistance r = resistance.get();
        Eng.Quantity ohms = Eng.prefixed(r.ohms(), "Ω", 2);
        Eng.Quantity low = Eng.prefixed(r.low(), "Ω", 2);
        Eng.Quantity high = Eng.prefixed(r.high(), "Ω", 2);
        Eng.Quantity watts = Eng.prefixed(r.watts(), "W", 2);
        List<Figure> figures = new ArrayList<>();
        figures.add(new Figure(Eng.fixed(r.volts(), 3), "V", "at the supply"));
        figures.add(new Figure(Eng.fixed(r.amps(), 2), "A", "through the leads"));
        figures.add(new Figure(ohms.number(), ohms.unit(), "the short, " + low + " to " + high));
        figures.add(new Figure(watts.number(), watts.unit(), "heat at the fault"));
        return figures;
    }

    private static String meaning(Optional<FaultResistance> resistance) {
        if (resistance.isEmpty()) {
            return "No injection has been recorded.";
        }
        FaultResistance r = resistance.get();
        if (r.amps() < FaultResistance.MIN_AMPS) {
            return "No current: a probe is not touching.";
        }
        if (r.explainedWithoutFault() && r.high() < HARD_SHORT_OHMS) {
            return "Leads and series parts explain nearly all of it: a very hard short, or the probe is on ground.";
        }
        if (r.ohms() < HARD_SHORT_OHMS) {
            return "A hard short, most likely a capacitor. Its heat grows with the square of the current, not with the voltage.";
        }
        if (r.ohms() < CHIP_LIKE_OHMS) {
            return "Tenths of an ohm: a capacitor or a chip.";
        }
        return "Ohms rather than milliohms: more often a chip.";
    }

    private static List<SuspectLine> suspects(Board board, Optional<StoredAnalysis> analysis) {
        List<SuspectLine> lines = new ArrayList<>();
        List<StoredAnalysis.StoredSuspect> all = analysis.filter(a -> a.verdict() != Verdict.NONE)
                .map(StoredAnalysis::suspects)
                .orElse(List.of());
        for (int i = 0; i < Math.min(LISTED, all.size()); i++) {
            StoredAnalysis.StoredSuspect suspect = all.get(i);
            Part part = board.part(suspect.ref()).orElseThrow();
            String value = part.value().isEmpty() ? "" : " " + part.value();
            String words =
                    Words.of(part.kind()) + value + ", " + part.side().name().toLowerCase(Locale.ROOT) + ", "
                            + Eng.fixed(suspect.offMm(), 1) + " mm from the source";
            lines.add(new SuspectLine(
                    i + 1,
                    suspect.ref(),
                    words,
                    Eng.percent(suspect.probability()),
                    suspect.probability() > 0.05 || i == 0));
        }
        return lines;
    }

    private static String rest(Board board, String rail, Optional<StoredAnalysis> analysis) {
        if (analysis.isEmpty()) {
            return "";
        }
        StoredAnalysis a = analysis.get();
        if (a.verdict() == Verdict.NONE) {
            return "Nothing in the frames beyond what the leads and the series parts explain ("
                    + Eng.percent(a.noneProbability()) + " %).";
        }
        double listed = a.suspects().stream()
                .limit(LISTED)
                .mapToDouble(StoredAnalysis.StoredSuspect::probability)
                .sum();
        double others = Math.max(0, 1 - listed - a.noneProbability() - a.elsewhereProbability());
        long parts = Math.max(0, board.partsOn(rail).count() - LISTED);
        return "The other " + parts + " parts of " + rail + " together: " + Eng.percent(others)
                + " %. Something off the rail: " + Eng.percent(a.elsewhereProbability()) + " %. Nothing at all: "
                + Eng.percent(a.noneProbability()) + " %.";
    }

    private static List<Caution> warnings(Optional<StoredAnalysis> analysis) {
        return analysis.map(a -> a.warnings().entrySet().stream()
                        .map(w ->
                                new Caution(StoredAnalysis.code(w.getKey()), LocateJson.text(w.getKey(), w.getValue())))
                        .toList())
                .orElse(List.of());
    }

    private static Optional<AgainReading> again(Proof proof) {
        boolean wanted = proof.state() == Proof.State.READING_WANTED
                || proof.state() == Proof.State.STILL_THERE
                || proof.state() == Proof.State.WARM_OR_PARTIAL;
        return wanted
                ? proof.before()
                        .map(b -> new AgainReading(
                                b.net().orElse("")
                                        + b.ref().map(r -> " at " + r).orElse(""),
                                Words.plain(b.mode()),
                                b.mode() == Observation.ReadMode.DIODE ? "V" : "Ω",
                                Words.value(b)))
                : Optional.empty();
    }

    private static List<String> places(Board board) {
        List<String> places = new ArrayList<>();
        board.nets().stream()
                .filter(n -> n.kind() != ohmoscope.core.board.NetKind.SIGNAL)
                .map(Net::name)
                .forEach(places::add);
        board.testPoints().forEach(t -> places.add(t.ref()));
        board.parts().forEach(p -> places.add(p.ref()));
        return places;
    }
}
