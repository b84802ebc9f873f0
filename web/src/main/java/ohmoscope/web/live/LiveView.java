package ohmoscope.web.live;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import ohmoscope.core.board.Part;
import ohmoscope.core.inject.InjectionPlaces;
import ohmoscope.web.inject.Planned;
import ohmoscope.web.job.AdviceView;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.BenchStore;

/**
 * What the live page begins with; the rest comes over its line.
 *
 * @param bench the one that is opened; empty where there is none, or several and none was chosen
 * @param inUse the job that it is open for already; empty where it is free
 * @param refs the rail's parts
 * @param series parts in series with the rail
 * @param phone whether telephones are answered
 * @param hot where the hot lead may sit, the best first
 */
public record LiveView(
        JobHead head,
        List<AdviceView.StopLine> stops,
        String ceiling,
        List<BenchStore.Named> benches,
        OptionalLong bench,
        String inUse,
        List<String> hot,
        String back,
        List<String> refs,
        List<String> series,
        boolean phone) {
    static LiveView of(
            OpenJobs.Open open, LivePlans.Plan plan, LiveBenches benches, Optional<Long> wanted, boolean phone) {
        List<BenchStore.Named> all = benches.all();
        OptionalLong chosen = all.stream()
                .filter(b -> wanted.map(id -> id == b.id()).orElse(all.size() == 1))
                .mapToLong(BenchStore.Named::id)
                .findFirst();
        return new LiveView(
                open.head(),
                AdviceView.stops(open),
                Eng.significant(plan.planned().plan().ceilingVolts(), 2) + " V",
                all,
                chosen,
                chosen.isPresent() ? benches.user(chosen.getAsLong()).orElse("") : "",
                plan.places().hot().stream().map(Planned::words).toList(),
                plan.places().back().stream().findFirst().map(Planned::words).orElse("a fat pad of ground"),
                open.job()
                        .board()
                        .partsOn(open.job().bundle().rail())
                        .map(Part::ref)
                        .toList(),
                InjectionPlaces.seriesAt(open.job().board(), open.job().bundle().rail()).stream()
                        .map(InjectionPlaces.Series::ref)
                        .distinct()
                        .toList(),
                phone);
    }
}
