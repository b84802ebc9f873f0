package ohmoscope.web.proof;

import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.ReworkStore;

/** By what a part came off, in words. */
final class ReworkMeans {
    private ReworkMeans() {}

    static String words(ReworkStore.Done done) {
        String by = switch (done.method()) {
            case COLD_LEVER -> " cold";
            case IRON -> " with the iron";
            case AIR -> " with hot air";
            case AIR_PREHEATED -> " with hot air, the board warmed from below";
            case LOW_MELT -> " with low-melt alloy";
        };
        String set =
                done.setC().isPresent() ? " set to " + Eng.fixed(done.setC().getAsDouble(), 0) + " °C" : "";
        String took =
                done.tookS().isPresent() ? ", in " + Eng.fixed(done.tookS().getAsDouble(), 0) + " s" : "";
        return by + set + took;
    }
}
