package ohmoscope.web.parts;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Part;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.parts.Companions;
import ohmoscope.core.parts.OrderPlan;
import ohmoscope.core.parts.Prices;
import ohmoscope.core.parts.WantedPart;
import ohmoscope.core.rework.LeaveOff;
import ohmoscope.web.job.NamedPart;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.StockStore;

/**
 * The one order of a job, as the parts desk prints it.
 *
 * @param words what it comes to beside ordering less or more
 */
record OrderView(List<Line> lines, String words) {
    private static final double LEAST = 0.02;
    private static final int MOST = 8;
    /** A part that is proven, or called so, is needed. */
    private static final double SURE = 1;

    /** @param mark ok where it is ordered */
    record Line(String ref, String what, String percent, String price, String words, boolean ordered) {}

    private record Candidate(Part part, double probability) {}

    /** @return empty where nothing may be needed */
    static Optional<OrderView> of(OpenJobs.Open open, Part named, Prices prices, List<StockStore.Kept> stock) {
        Board board = open.job().board();
        List<OrderPlan.Need> needs = new ArrayList<>();
        Map<String, String> why = new LinkedHashMap<>();
        for (Candidate candidate : candidates(open, named)) {
            Part part = candidate.part();
            WantedPart wanted = WantedPart.of(board, part);
            Optional<ohmoscope.core.parts.StockLine> have = stock.stream()
                    .map(StockStore.Kept::line)
                    .filter(l -> l.fit(wanted) != WantedPart.Fit.NO)
                    .findFirst();
            boolean staysOff = LeaveOff.of(board, part, open.advice().now().absent())
                    .filter(l -> l.verdict() == LeaveOff.Verdict.MAY_STAY_OFF)
                    .isPresent();
            if (have.isPresent()) {
                why.put(part.ref(), "in the shop");
            } else if (staysOff) {
                why.put(part.ref(), "may stay off");
            }
            double price = have.flatMap(
                            l -> l.price().isPresent() ? Optional.of(l.price().getAsDouble()) : Optional.empty())
                    .orElse(prices.usual().get(part.kind()));
            needs.add(new OrderPlan.Need(part.ref(), candidate.probability(), price, have.isPresent() || staysOff));
        }
        OrderPlan plan = OrderPlan.of(needs, prices);
        if (plan.lines().isEmpty()) {
            return Optional.empty();
        }
        List<Line> lines = plan.lines().stream()
                .map(l -> new Line(
                        l.need().ref(),
                        board.part(l.need().ref()).map(p -> Words.of(p.kind())).orElse(""),
                        Eng.percent(l.need().probability()),
                        money(l.need().price()),
                        words(l, why),
                        l.order()))
                .toList();
        return Optional.of(new OrderView(lines, words(plan, prices)));
    }

    private static String words(OrderPlan.Line line, Map<String, String> why) {
        if (line.need().there()) {
            return why.getOrDefault(line.need().ref(), "there");
        }
        String from = Eng.percent(line.from().orElse(0)) + " %";
        return line.order() ? "order: worth it from " + from : "not now: along with others worth it from " + from;
    }

    private static String words(OrderPlan plan, Prices prices) {
        if (plan.lines().stream().allMatch(l -> l.need().there())) {
            return "Nothing has to be ordered.";
        }
        if (plan.lines().stream().noneMatch(OrderPlan.Line::order)) {
            return "Nothing yet: an order now would cost more than it is likely to spare. Measure on, then order what is needed.";
        }
        return "Expected to cost " + money(plan.expected()) + " with all that follows from it; the likeliest alone "
                + money(plan.leading()) + ", all of them " + money(plan.all()) + ". A second order would cost "
                + money(prices.secondOrder()) + ": its postage and " + Eng.plain(prices.waitDays())
                + " days of waiting.";
    }

    private static String money(double amount) {
        return Eng.fixed(amount, 2);
    }

    /** Who may be needed: by proof, by the frames or by the meter, and what often goes with the likeliest. */
    private static List<Candidate> candidates(OpenJobs.Open open, Part named) {
        Board board = open.job().board();
        Map<String, Double> likely = new LinkedHashMap<>();
        boolean proven = open.proof()
                .culprit()
                .filter(c -> c.target().equals(named.ref()))
                .isPresent();
        if (proven) {
            likely.put(named.ref(), SURE);
        } else {
            likely.putAll(NamedPart.suspected(open, h -> true));
            likely.putIfAbsent(named.ref(), 0.0);
        }
        double leading = likely.getOrDefault(named.ref(), 0.0);
        boolean touched = open.job().bundle().observations().stream()
                .anyMatch(o -> o instanceof Look l
                        && l.target().equals(named.ref())
                        && (l.finding() == LookFinding.PINS_TOUCHING || l.finding() == LookFinding.BURNT));
        Companions.of(board, named, touched)
                .forEach((ref, share) -> likely.merge(ref, leading * share, (a, b) -> Math.min(1, a + b)));
        return likely.entrySet().stream()
                .filter(e -> e.getValue() >= LEAST || e.getKey().equals(named.ref()))
                .sorted(Map.Entry.<String, Double>comparingByValue().reversed())
                .limit(MOST)
                .flatMap(e -> board.part(e.getKey()).stream().map(p -> new Candidate(p, e.getValue())))
                .toList();
    }
}
