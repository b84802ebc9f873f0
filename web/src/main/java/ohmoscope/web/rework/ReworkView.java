package ohmoscope.web.rework;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.Side;
import ohmoscope.core.prove.Joints;
import ohmoscope.core.rework.Kit;
import ohmoscope.core.rework.LeaveOff;
import ohmoscope.core.rework.ReworkPlan;
import ohmoscope.core.rework.Way;
import ohmoscope.core.rework.Way.Peak;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.BoardPicture;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.JointWords;
import ohmoscope.web.kit.Words;

/**
 * The page of a part's rework.
 *
 * @param ref empty where no part is named yet
 * @param learned what earlier parts told of this bench's air; empty when nothing
 */
record ReworkView(
        JobHead head,
        List<AdviceView.StopLine> stops,
        String ref,
        String what,
        String side,
        List<WayLine> ways,
        Optional<Chosen> chosen,
        JointTable joints,
        String leaveOff,
        String learned,
        KitForm kit,
        List<String> refs) {
    private static final int MOST_PEAKS = 14;
    private static final int LABELLED = 12;
    private static final double AROUND_MM = 10;

    /** What a beeper is asked once a part is back on. @param in whether it is; @param more how many are not listed */
    record JointTable(boolean in, List<JointLine> lines, int more) {
        private static final JointTable NONE = new JointTable(false, List.of(), 0);

        static JointTable of(Joints joints) {
            return new JointTable(
                    joints.in(),
                    joints.joints().stream()
                            .map(j -> new JointLine(
                                    j.pin(),
                                    j.to(),
                                    JointWords.where(joints.ref(), j),
                                    JointWords.good(j),
                                    JointWords.shown(j),
                                    switch (j.state()) {
                                        case RIGHT -> "ok";
                                        case WRONG -> "bad";
                                        case WANTED -> "";
                                    }))
                            .toList(),
                    joints.more());
        }
    }

    /** One joint. @param state ok or bad; empty while nobody has asked */
    record JointLine(String pin, String to, String where, String good, String shown, String state) {}

    /** One way in the list. @param state good or bad, what its mark shows */
    record WayLine(
            String method,
            String words,
            String reason,
            String set,
            String nozzle,
            String preheat,
            String melts,
            String hottest,
            String minutes,
            String risk,
            String state,
            String stateWords,
            boolean chosen) {}

    /** The way that is looked at. @param plannedS for the form, to be learned from */
    record Chosen(
            WayLine line,
            List<String> steps,
            List<PeakLine> peaks,
            int more,
            Drawing drawing,
            boolean timed,
            String plannedS,
            String setC,
            String nozzleMm,
            boolean heat) {}

    /** One neighbour. */
    record PeakLine(String ref, String where, String peak, String limit, String why, String state, String stateWords) {}

    /**
     * The worked side round the part, in the picture's millimetres.
     *
     * @param radii circles of the air: where half of it acts, where a quarter does
     */
    record Drawing(
            BoardPicture picture,
            String viewBox,
            double x,
            double y,
            double w,
            double h,
            double rot,
            List<Double> radii,
            List<Label> labels) {
        public boolean screens() {
            return labels.stream().anyMatch(Label::screened);
        }

        public boolean tapes() {
            return labels.stream().anyMatch(Label::taped);
        }
    }

    /** How hot a part gets, written on it where there is room. @param state over, near, or well */
    record Label(
            double x,
            double y,
            double w,
            double h,
            double rot,
            String words,
            String state,
            boolean screened,
            boolean taped) {
        private static final double WIDE_MM = 2.3;
        private static final double HIGH_MM = 1.2;

        /** Whether words there would stand on these. */
        boolean near(BoardPicture.Shape other) {
            return Math.abs(other.x() - x) < WIDE_MM && Math.abs(other.y() - y) < HIGH_MM;
        }
    }

    /** The kit as a form shows it. */
    record KitForm(
            String nozzles,
            String airMost,
            String litres,
            String ironMost,
            String preheatMost,
            boolean lowMelt,
            boolean screens,
            boolean tape) {
        static KitForm of(Kit kit) {
            return new KitForm(
                    kit.air()
                            .map(a -> String.join(
                                    " ",
                                    a.nozzlesMm().stream()
                                            .map(ReworkView::millimetres)
                                            .toList()))
                            .orElse(""),
                    kit.air().map(a -> Eng.fixed(a.mostC(), 0)).orElse(""),
                    kit.air().map(a -> Eng.significant(a.litresPerMin(), 3)).orElse(""),
                    kit.iron().map(i -> Eng.fixed(i.mostC(), 0)).orElse(""),
                    kit.preheater().map(p -> Eng.fixed(p.mostC(), 0)).orElse(""),
                    kit.lowMelt(),
                    kit.screens(),
                    kit.tape());
        }
    }

    static ReworkView nobody(OpenJobs.Open open, Kit kit) {
        return new ReworkView(
                open.head(),
                AdviceView.stops(open),
                "",
                "",
                "",
                List.of(),
                Optional.empty(),
                JointTable.NONE,
                "",
                "",
                KitForm.of(kit),
                refs(open));
    }

    private static List<String> refs(OpenJobs.Open open) {
        return open.job().board().parts().stream().map(Part::ref).sorted().toList();
    }

    /** @param wanted the way to be shown in full; the best where it is none of the plan's */
    static ReworkView of(
            OpenJobs.Open open, ReworkPlan plan, Optional<LeaveOff> leaveOff, Kit kit, String wanted, double gain) {
        Part part = plan.part();
        Optional<Way> shown = plan.ways().stream()
                .filter(w -> w.method().name().equals(wanted))
                .findFirst()
                .or(() -> plan.ways().stream().findFirst());
        return new ReworkView(
                open.head(),
                AdviceView.stops(open),
                part.ref(),
                Words.of(part.kind())
                        + (part.value().isEmpty() ? "" : " " + part.value())
                        + (part.packageName().isEmpty() ? "" : ", " + part.packageName()),
                Words.plain(part.side()),
                plan.ways().stream()
                        .map(w -> line(w, shown.filter(w::equals).isPresent()))
                        .toList(),
                shown.map(w -> chosen(open, plan, w)),
                JointTable.of(
                        Joints.of(open.job().board(), part, open.job().bundle().observations())),
                leaveOff.map(l -> ReworkWords.leaveOff(l, part.ref())).orElse(""),
                Math.abs(gain - 1) < 0.02
                        ? ""
                        : "Your air passes on " + Eng.significant(gain, 2)
                                + " times the heat of the books, as the last parts showed: seconds are reckoned with that.",
                KitForm.of(kit),
                refs(open));
    }

    private static WayLine line(Way way, boolean chosen) {
        Optional<Peak> worst =
                way.peaks().stream().filter(p -> p.limit().hard()).findFirst();
        boolean melts = way.method() == Way.Method.COLD_LEVER || way.meltsAtS().isPresent();
        return new WayLine(
                way.method().name(),
                ReworkWords.method(way.method()),
                ReworkWords.reason(way.method()),
                degrees(way.setC()),
                way.nozzleMm().isPresent() ? millimetres(way.nozzleMm().getAsDouble()) + " mm" : "",
                degrees(way.preheatC()),
                way.meltsAtS().isPresent()
                        ? Eng.fixed(way.meltsAtS().getAsDouble(), 0) + " s"
                        : melts ? "" : "does not melt",
                worst.map(p -> p.ref() + " " + Eng.fixed(p.mostC(), 0) + " of "
                                + Eng.fixed(p.limit().celsius(), 0) + " °C")
                        .orElse(""),
                Eng.fixed(way.minutes(), 0) + " min",
                Eng.percent(way.risk()) + " %",
                way.safe() ? "ok" : "bad",
                way.safe() ? harmless(way) : melts ? "a neighbour may get too hot" : "joints stay solid",
                chosen);
    }

    private static String harmless(Way way) {
        long melting = way.peaks().stream().filter(Peak::over).count();
        return "no neighbour comes to harm"
                + (melting == 0
                        ? ""
                        : melting == 1
                                ? "; one small part's solder melts"
                                : "; " + melting + " small parts' solder melts");
    }

    static String millimetres(double mm) {
        return Eng.fixed(mm, mm == Math.rint(mm) ? 0 : 1);
    }

    private static String degrees(OptionalDouble celsius) {
        return celsius.isPresent() ? Eng.fixed(celsius.getAsDouble(), 0) + " °C" : "";
    }

    private static Chosen chosen(OpenJobs.Open open, ReworkPlan plan, Way way) {
        List<PeakLine> peaks = way.peaks().stream()
                .limit(MOST_PEAKS)
                .map(p -> peak(p, way.taped().contains(p.ref())))
                .toList();
        boolean heat = way.method() != Way.Method.COLD_LEVER;
        return new Chosen(
                line(way, true),
                ReworkWords.steps(way, plan.part().ref(), plan.first()),
                peaks,
                way.peaks().size() - peaks.size(),
                drawing(open, plan.part(), way),
                heat,
                way.meltsAtS().isPresent() ? Eng.fixed(way.meltsAtS().getAsDouble(), 1) : "",
                way.setC().isPresent() ? Eng.fixed(way.setC().getAsDouble(), 0) : "",
                way.nozzleMm().isPresent() ? millimetres(way.nozzleMm().getAsDouble()) : "",
                heat);
    }

    private static PeakLine peak(Peak peak, boolean taped) {
        return new PeakLine(
                peak.ref(),
                (peak.otherSide() ? "other side" : Eng.fixed(peak.gapMm(), 1) + " mm beside")
                        + (peak.screened() ? ", screened" : taped ? ", taped" : ""),
                Eng.fixed(peak.celsius(), 0) + (peak.limit().hard() ? " to " + Eng.fixed(peak.mostC(), 0) : "") + " °C",
                Eng.fixed(peak.limit().celsius(), 0) + " °C",
                ReworkWords.limit(peak.limit().why()),
                state(peak).equals("over") ? (peak.limit().hard() ? "bad" : "look") : "ok",
                state(peak).equals("over") ? (peak.limit().hard() ? "may get too hot" : "melts") : "stays below");
    }

    private static String state(Peak peak) {
        return peak.over() ? "over" : peak.marginK() < 25 ? "near" : "well";
    }

    private static Drawing drawing(OpenJobs.Open open, Part part, Way way) {
        Side side = part.side();
        BoardPicture picture =
                BoardPicture.pointing(open.job().board(), open.job().bundle().rail(), side, List.of());
        BoardPicture.Shape own = shape(picture, part.ref()).orElseThrow();
        List<Double> radii = new ArrayList<>();
        way.nozzleMm().ifPresent(d -> {
            radii.add(d / 2);
            // Where the coefficient has fallen to a half, and to a fifth.
            radii.add(1.6 * d);
        });
        List<Label> labels = new ArrayList<>();
        List<Label> worded = new ArrayList<>();
        for (Peak p : way.peaks()) {
            boolean tells = !p.otherSide() && (p.limit().hard() || p.over() || p.screened());
            Optional<BoardPicture.Shape> at = tells ? shape(picture, p.ref()) : Optional.empty();
            boolean taped = way.taped().contains(p.ref());
            at.filter(s -> Math.abs(s.x() - own.x()) < AROUND_MM && Math.abs(s.y() - own.y()) < AROUND_MM)
                    .ifPresent(s -> {
                        boolean room = p.screened()
                                || worded.size() < LABELLED && worded.stream().noneMatch(l -> l.near(s));
                        if (room || taped) {
                            String words = room ? Eng.fixed(p.celsius(), 0) + "°" : "";
                            Label label = new Label(
                                    s.x(), s.y(), s.w(), s.h(), s.rot(), words, state(p), p.screened(), taped);
                            labels.add(label);
                            if (room) {
                                worded.add(label);
                            }
                        }
                    });
        }
        return new Drawing(
                picture,
                String.format(
                        Locale.ROOT,
                        "%.2f %.2f %.2f %.2f",
                        own.x() - AROUND_MM,
                        own.y() - AROUND_MM,
                        2 * AROUND_MM,
                        2 * AROUND_MM),
                own.x(),
                own.y(),
                own.w(),
                own.h(),
                own.rot(),
                radii,
                labels);
    }

    private static Optional<BoardPicture.Shape> shape(BoardPicture picture, String ref) {
        return picture.parts().stream().filter(s -> s.ref().equals(ref)).findFirst();
    }
}
