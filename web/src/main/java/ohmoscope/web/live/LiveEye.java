package ohmoscope.web.live;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.formats.Texts;
import ohmoscope.web.kit.Eng;

/** Warmth without a camera, while current flows: what dries, thaws or feels warm first, marked by a key. Safe for all threads. */
final class LiveEye {
    /** How it is looked for. */
    enum Means {
        FILM(WarmthMeans.LIQUID, "by-eye.film"),
        /** What a freezing spray leaves is a film too. */
        FROST(WarmthMeans.LIQUID, "by-eye.frost"),
        FINGER(WarmthMeans.TOUCH, "by-eye.finger");

        private final WarmthMeans by;
        private final String guide;

        Means(WarmthMeans by, String guide) {
            this.by = by;
            this.guide = guide;
        }

        /** @throws InvalidMember for a word that is none */
        static Means of(String word) {
            try {
                return valueOf(word.toUpperCase(Locale.ROOT));
            } catch (IllegalArgumentException none) {
                throw new InvalidMember("means", "is none of film, frost, finger: " + word);
            }
        }
    }

    private final Means means;
    private final List<Mark> marks = new ArrayList<>();

    /** @param ref empty while nobody has said where */
    private record Mark(double seconds, Optional<String> ref) {}

    LiveEye(Means means) {
        this.means = means;
    }

    /** Something shows. @param ref the part; empty to take only the time, and say later where */
    synchronized void mark(Optional<String> ref, OptionalDouble seconds) {
        int unnamed = 0;
        while (unnamed < marks.size() && marks.get(unnamed).ref.isPresent()) {
            unnamed++;
        }
        if (ref.isPresent() && unnamed < marks.size()) {
            marks.set(unnamed, new Mark(marks.get(unnamed).seconds, ref));
        } else if (seconds.isPresent()) {
            marks.add(new Mark(seconds.getAsDouble(), ref));
        }
    }

    /** The first is the fault or the nearest to it; what comes later is what stands near, and is kept by nobody. */
    synchronized Optional<Warm> first(int seq) {
        return marks.stream()
                .findFirst()
                .filter(m -> m.ref.isPresent())
                .map(m -> new Warm(
                        seq,
                        m.ref,
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        Optional.empty(),
                        Optional.of(means.by),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        false));
    }

    synchronized LiveState.ByEye state() {
        return new LiveState.ByEye(
                means.name().toLowerCase(Locale.ROOT),
                Texts.of(means.guide),
                marks.stream()
                        .map(m -> Eng.fixed(m.seconds, 1) + " s: " + m.ref.orElse("?"))
                        .toList());
    }
}
