package ohmoscope.core.locate.search;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.Grids;
import ohmoscope.core.locate.LocateSettings;
import ohmoscope.core.locate.capture.MovieTime;
import ohmoscope.core.locate.fit.MovieFit;
import ohmoscope.core.locate.fit.MovieFit.Nuisance;
import ohmoscope.core.locate.fit.WattsPrior;
import ohmoscope.core.locate.model.CaptureModel;
import ohmoscope.core.locate.model.HeatModel;
import ohmoscope.core.locate.model.HeatSource;
import org.junit.jupiter.api.Test;

/** A contact that is a little beside where it was marked, and a suspect beside the contact. */
class NuisancePlacesTest {
    private static final int ROWS = 60;
    private static final int COLUMNS = 80;
    private static final double PITCH = 0.5;
    private static final double NOISE = 0.05;
    private static final double SIGMA_MM = 0.4;
    private static final HeatSource MARKED = new HeatSource(17, 12, Side.TOP, 0.25, 0.1);
    private static final HeatSource TIP = MARKED.moved(0.5, -0.2);
    private static final HeatSource SUSPECT = MARKED.moved(2, 0);

    private final SlabParameters slab = SlabParameters.expected(Fixtures.board());
    private final HeatModel model = HeatModel.of(slab);
    private final MovieTime time = Grids.time(slab, 2, 70, 0.12);
    private final WattsPrior expected = WattsPrior.normal(0.02, 0.02);
    private final Nuisance contact = new Nuisance(Nuisance.Kind.CONTACT, "lead", List.of(MARKED), 0, 0.2);
    private final NuisancePlaces places = new NuisancePlaces(List.of(contact), expected, SIGMA_MM);

    private CaptureModel capture(float[] data) {
        return CaptureModel.of(
                Side.TOP,
                Grids.of(ROWS, COLUMNS, PITCH, 0),
                data,
                NOISE,
                time,
                PITCH,
                Fixtures.rectangle(40, 30),
                LocateSettings.DEFAULT,
                100_000);
    }

    /** What the camera sees of the tip's watts, and of a suspect's. */
    private List<CaptureModel> seen(double tipWatts, double suspectWatts) {
        Random random = new Random(8);
        CaptureModel empty = capture(new float[ROWS * COLUMNS * time.components()]);
        float[] tip = empty.column(List.of(TIP), empty.tables(model)).values();
        float[] suspect = empty.column(List.of(SUSPECT), empty.tables(model)).values();
        float[] data = new float[tip.length];
        for (int i = 0; i < data.length; i++) {
            data[i] = (float) (tipWatts * tip[i] + suspectWatts * suspect[i] + NOISE * random.nextGaussian());
        }
        return List.of(capture(data));
    }

    private double gain(List<CaptureModel> captures, List<Nuisance> now) {
        return new MovieFit(captures, now, expected, model).aloneGain();
    }

    private double missed(List<CaptureModel> captures, List<Nuisance> now) {
        return places.alone(now, gain(captures, now), captures, captures, model).missedNats();
    }

    private HeatSource place(List<Nuisance> now) {
        return now.get(0).sources().get(0);
    }

    @Test
    void aContactIsFoundBesideItsMarkWhereASuspectWarmsToo() {
        List<CaptureModel> captures = seen(0.05, 0.02);
        List<Nuisance> once = places.besides(SUSPECT, places.stated(), captures, model);
        List<Nuisance> twice = places.besides(SUSPECT, once, captures, model);
        assertThat(place(twice).xMm()).isCloseTo(TIP.xMm(), within(0.15));
        assertThat(place(twice).yMm()).isCloseTo(TIP.yMm(), within(0.15));
        assertThat(twice.get(0).sigmaWatts()).isEqualTo(contact.sigmaWatts());
    }

    @Test
    void whatTheContactExplainsByItselfIsNotLeftToASuspect() {
        List<CaptureModel> captures = seen(0.05, 0);
        MovieFit marked = new MovieFit(captures, places.stated(), expected, model);
        double suspects = marked.score(SUSPECT).logLikelihood();
        // Where it was marked, a suspect on the side to which the tip really is explains what is left.
        assertThat(suspects).isGreaterThan(10);
        assertThat(missed(captures, places.stated())).isGreaterThan(0.9 * suspects);
    }

    @Test
    void settledByItselfNothingIsMissed() {
        List<CaptureModel> captures = seen(0.05, 0);
        HeatSource far = MARKED.moved(15, 10);
        List<Nuisance> now =
                places.besides(far, places.besides(far, places.stated(), captures, model), captures, model);
        assertThat(missed(captures, now)).isLessThan(1);
    }

    /** What shows no heat explains as much as nothing does, not less by what a suspect cost that had pushed the contact aside. */
    @Test
    void aPartThatShowsNoHeatDoesNotPayForWhereASuspectPushedTheContact() {
        List<CaptureModel> captures = seen(0.05, 0);
        List<Nuisance> pushed = List.of(contact.moved(-0.4, 0.3));
        NuisancePlaces.Alone alone = places.alone(pushed, gain(captures, pushed), captures, captures, model);
        double silent = new MovieFit(captures, alone.nuisances(), expected, model)
                .score(MARKED.moved(15, 10))
                .logLikelihood();
        assertThat(alone.missedNats()).isGreaterThan(20);
        assertThat(place(alone.nuisances()).xMm()).isCloseTo(TIP.xMm(), within(0.15));
        assertThat(silent).isBetween(-8.0, 1.0);
    }

    @Test
    void aTrueSuspectStillGainsMuch() {
        List<CaptureModel> captures = seen(0.05, 0.02);
        List<Nuisance> now = places.besides(SUSPECT, places.stated(), captures, model);
        double suspects =
                new MovieFit(captures, now, expected, model).score(SUSPECT).logLikelihood();
        // A contact that goes to meet it explains most of it, but not its second place.
        assertThat(suspects - missed(captures, now)).isGreaterThan(200);
    }

    @Test
    void withoutContactsThereIsNothingToMiss() {
        NuisancePlaces none = new NuisancePlaces(List.of(), expected, SIGMA_MM);
        List<CaptureModel> captures = seen(0, 0.02);
        assertThat(none.alone(List.of(), 0, captures, captures, model).missedNats())
                .isZero();
    }
}
