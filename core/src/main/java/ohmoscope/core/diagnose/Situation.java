package ohmoscope.core.diagnose;

import java.util.List;
import java.util.Optional;

/**
 * All that the rules of a plan look at.
 *
 * @param rail the rail complained of, when somebody named it
 * @param experience what was wrong with others of the model
 * @param plan what they add to
 */
record Situation(
        Timeline timeline,
        RailBook book,
        Diagnosis diagnosis,
        Experiments experiments,
        List<Finding> findings,
        List<Stop> stops,
        Optional<Mending> mending,
        Optional<String> rail,
        Schools schools,
        List<Experience.Tempered> experience,
        Plan plan) {}
