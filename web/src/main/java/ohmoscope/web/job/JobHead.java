package ohmoscope.web.job;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.prove.RailInQuestion;
import ohmoscope.core.prove.Walk;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.kit.Words;

/** What stands over every page of a job: what it is, and the walk with the page of each step. */
public record JobHead(
        String number,
        String title,
        String device,
        String rail,
        String railVolts,
        String railKnown,
        List<WalkStop> walk,
        List<HuntTab> hunts) {
    /** One of the job's hunts. @param words its rail, and whether it is proven */
    public record HuntTab(int number, String words, boolean current) {}

    /**
     * @param note a small line below, empty for none
     * @param page the page of this step under the job's address; empty for the sheet
     */
    public record WalkStop(String name, String state, String note, String page) {}

    public static JobHead of(JobFile.Stored job, Walk walk) {
        Board board = job.board();
        RailInQuestion question = job.bundle().railInQuestion();
        String rail = question.net();
        return new JobHead(
                job.bundle().job().id(),
                job.account(),
                device(job),
                rail,
                board.net(rail)
                        .flatMap(n -> n.nominalVolts().isPresent()
                                ? Optional.of(Eng.significant(n.nominalVolts().getAsDouble(), 2))
                                : Optional.empty())
                        .map(v -> v + " V")
                        .orElse(""),
                switch (question.known()) {
                    case STATED -> "";
                    case FOUND -> "found";
                    case FED -> "fed";
                    case NOT_YET -> "not known yet";
                },
                walk.stops().stream()
                        .map(s -> new WalkStop(
                                Words.of(s.step()),
                                s.state().name().toLowerCase(Locale.ROOT).replace('_', '-'),
                                Words.note(s).orElse(""),
                                page(s.step())))
                        .toList(),
                hunts(job));
    }

    /** Shown once there are two. */
    private static List<HuntTab> hunts(JobFile.Stored job) {
        if (job.job().hunts().size() < 2) {
            return List.of();
        }
        return job.job().hunts().stream()
                .map(h -> {
                    boolean here = h.number() == job.job().current();
                    String rail = here
                            ? job.bundle().rail()
                            : job.job().question(h, Optional.empty()).net();
                    return new HuntTab(h.number(), rail + (job.job().proven(rail) ? ", short gone" : ""), here);
                })
                .toList();
    }

    private static String device(JobFile.Stored job) {
        Board board = job.board();
        String named = job.row().device();
        String onBoard = BoardNames.of(board.name(), board.revision());
        return named.isEmpty() || named.equals(board.name()) ? onBoard : named + ", as " + onBoard;
    }

    private static String page(Walk.Step step) {
        return switch (step) {
            case RECEIVE -> "/receive";
            case FIRST_POWER -> "/power";
            case LOOK -> "/look";
            case SURVEY -> "/survey";
            case ISOLATE -> "/isolate";
            case INJECT -> "/inject";
            case NAME_IT -> "/name";
            case REWORK -> "/rework";
            case HAND_BACK -> "/hand-back";
            default -> "";
        };
    }
}
