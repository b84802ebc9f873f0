package ohmoscope.web.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.IntFunction;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Pin;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.Read;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.ProbePlace;
import org.junit.jupiter.api.Test;

class LiveEndsTest {
    private static final OptionalDouble NO_CAMERA = OptionalDouble.empty();
    private static final Part SHUNT = Part.of(
            "R3",
            PartKind.RESISTOR,
            Side.TOP,
            10,
            10,
            3.2,
            1.6,
            List.of(new Pin("1", "VIN", 8.5, 10), new Pin("2", "VBAT", 11.5, 10)));

    private final LiveEnds metered = ends(true);

    private static LiveEnds ends(boolean metered) {
        return new LiveEnds(SHUNT, List.of(end("VBAT", 20), end("VIN", 2)), metered);
    }

    private static LiveEnds.End end(String net, double xMm) {
        return new LiveEnds.End(net, new ProbePlace(xMm, 10, Side.TOP, Optional.of("C1")), "C1, pad 1, top");
    }

    /** The meter reads, ten times a second, for as long as the key is held. @return whether it ended by itself */
    private static boolean held(LiveEnds ends, double volts, OptionalDouble rise, double seconds) {
        ends.begin();
        boolean told = false;
        for (int i = 1; i <= 10 * seconds && !told; i++) {
            told = ends.seen(OptionalDouble.of(volts), rise, 2, 0.1 * i);
        }
        return told;
    }

    private static List<Observation> kept(LiveEnds ends) {
        List<IntFunction<Observation>> done = ends.done();
        return done.stream().map(entry -> entry.apply(7)).toList();
    }

    @Test
    void aMeterThatRestsEndsEachEndAndTheSideIsNamed() {
        assertThat(metered.end().net()).isEqualTo("VBAT");
        assertThat(held(metered, 0.0224, NO_CAMERA, 5)).isTrue();
        assertThat(kept(metered)).singleElement().isInstanceOfSatisfying(Read.class, r -> {
            assertThat(r.across()).contains("R3");
            assertThat(r.value().getAsDouble()).isCloseTo(0.0224, within(1e-5));
            assertThat(r.power()).contains(PowerSource.BENCH);
        });
        assertThat(metered.end().net()).isEqualTo("VIN");
        assertThat(held(metered, 0.00004, NO_CAMERA, 5)).isTrue();
        assertThat(kept(metered)).hasSize(1);
        assertThat(metered.over()).isTrue();
        assertThat(metered.state().words()).startsWith("The short is on the side of VIN");
        assertThat(metered.state().fed()).hasSize(2);
        assertThat(kept(metered)).isEmpty();
    }

    @Test
    void aCameraNeedsItsTimeAndWhatWasHeldForAMomentWarmedNothing() {
        LiveEnds seen = ends(false);
        assertThat(held(seen, 0, OptionalDouble.of(0.9), 3)).isFalse();
        // The meter's tips are across the part all the same, but nobody says there is one.
        seen.begin();
        assertThat(seen.done()).isEmpty();
        assertThat(held(seen, 0.02, OptionalDouble.of(1.8), 13)).isTrue();
        assertThat(kept(seen).stream().filter(Warm.class::isInstance).map(Warm.class::cast))
                .singleElement()
                .satisfies(w -> {
                    assertThat(w.ref()).contains("R3");
                    assertThat(w.deltaK()).hasValue(1.8);
                });
    }

    @Test
    void aPartThatStaysColdIsKeptAsNothingWarm() {
        held(metered, 0.00002, OptionalDouble.of(-0.4), 13);
        assertThat(kept(metered).stream().filter(Warm.class::isInstance).map(Warm.class::cast))
                .singleElement()
                .satisfies(w -> assertThat(w.nothing()).isTrue());
    }

    @Test
    void anEndWhereNothingWasMeasuredIsFedOnceMore() {
        metered.begin();
        metered.seen(OptionalDouble.empty(), NO_CAMERA, 2, 3);
        assertThat(metered.done()).isEmpty();
        assertThat(metered.end().net()).isEqualTo("VBAT");
        assertThat(metered.state().lead()).isEqualTo("C1, pad 1, top");
    }
}
