package ohmoscope.web.begin;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.layout.Choices;
import ohmoscope.core.layout.Disagreement;
import ohmoscope.core.layout.FileRead;
import ohmoscope.core.layout.Layouts;
import ohmoscope.formats.BundleException;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.BoardStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import tools.jackson.databind.json.JsonMapper;

/** Where the files of a board do not say the same: what was believed, and what somebody rather believes. */
@Controller
class FilesController {
    /** Disagreements on a page. */
    private static final int MOST = 400;

    private final Opening opening;
    private final BoardStore boards;
    private final JsonMapper mapper;

    FilesController(Opening opening, BoardStore boards, JsonMapper mapper) {
        this.opening = opening;
        this.boards = boards;
        this.mapper = mapper;
    }

    /** One of the files. @param words how it was read @param scale as somebody said, empty where it was found */
    record FileLine(
            String name, String parts, String words, boolean first, String scale, String mirrored, String down) {}

    /** What a file says. */
    record Saying(String file, String words) {}

    /** A disagreement. */
    record Line(String key, String what, String name, String believed, List<Saying> said) {}

    /** A unit to choose. */
    record Unit(String value, String words) {}

    /** The page. @param job the job that began with the files; empty for none @param more not shown */
    record Page(
            long id,
            String name,
            String job,
            List<FileLine> files,
            List<Line> lines,
            int more,
            Optional<String> refused) {}

    @GetMapping("/boards/{id:\\d{1,15}}/files")
    String files(@PathVariable long id, @RequestParam(defaultValue = "") String job, Model model) throws IOException {
        return show(id, job, kept(id), Optional.empty(), model);
    }

    private Choices kept(long id) {
        String kept = boards.choices(id);
        return kept.isEmpty() ? Choices.NONE : mapper.readValue(kept, Choices.class);
    }

    private String show(long id, String job, Choices choices, Optional<String> refused, Model model)
            throws IOException {
        List<BoardStore.File> files = boards.files(id);
        if (files.isEmpty()) {
            throw new NotFoundException("This board was not read from several files.");
        }
        BoardStore.Row row = boards.row(id);
        Layouts.Laid laid = Opening.read(files, choices);
        model.addAttribute(
                "page",
                new Page(
                        id,
                        BoardNames.of(row.name(), row.revision()),
                        job,
                        laid.files().stream().map(f -> line(f, choices)).toList(),
                        laid.disagreements().stream()
                                .limit(MOST)
                                .map(FilesController::line)
                                .toList(),
                        Math.max(0, laid.disagreements().size() - MOST),
                        refused));
        model.addAttribute(
                "units",
                List.of(
                        new Unit("1.0", "millimetres"),
                        new Unit("25.4", "inches"),
                        new Unit("0.0254", "thousandths of an inch"),
                        new Unit(String.valueOf(1 / 25.4), "inches, told in millimetres"),
                        new Unit(String.valueOf(1 / 0.0254), "thousandths, told in millimetres")));
        return "board-files";
    }

    private static FileLine line(FileRead file, Choices choices) {
        Choices.AxesChoice said = choices.axes().getOrDefault(file.file(), Choices.AxesChoice.FOUND);
        return new FileLine(
                file.file(),
                file.parts() + " parts, " + file.placed() + " with a place",
                words(file),
                file.first(),
                said.scale().isPresent() ? String.valueOf(said.scale().getAsDouble()) : "",
                said.mirrored().map(String::valueOf).orElse(""),
                said.down().map(String::valueOf).orElse(""));
    }

    private static String words(FileRead file) {
        if (file.first()) {
            return "Believed first: the others are laid over it.";
        }
        if (file.placed() == 0) {
            return "Has no places: joined by reference.";
        }
        if (file.common() == 0) {
            return "Has no part in common with the others: its places are taken as they are.";
        }
        List<String> words = new ArrayList<>();
        words.add(Math.round(file.agree() * file.common()) + " of " + file.common() + " parts stand where they should");
        if (file.scale() != 1) {
            words.add("a unit of it is " + Eng.significant(file.scale(), 3) + " mm");
        }
        if (file.mirrored()) {
            words.add("its bottom is mirrored");
        }
        if (file.down()) {
            words.add("its y runs down");
        }
        words.add("its origin lies at " + Eng.fixed(file.xMm(), 2) + ", " + Eng.fixed(file.yMm(), 2) + " mm");
        return String.join("; ", words) + (file.used() ? "." : ". Its places are not used.");
    }

    private static Line line(Disagreement d) {
        return new Line(
                d.key(),
                switch (d.what()) {
                    case VALUE -> "value";
                    case SIDE -> "side";
                    case PLACE -> "place, mm";
                    case NET -> "net";
                    case PART -> "is it there";
                },
                d.name(),
                d.believed(),
                d.said().entrySet().stream()
                        .map(e -> new Saying(e.getKey(), e.getValue()))
                        .toList());
    }

    /**
     * Keeps what was decided, as the board's next version.
     *
     * @param file the files in the order of the page; {@code scale}, {@code mirrored} and {@code down} are theirs
     * @param key the disagreements in the order of the page; {@code was} and {@code believed} are the
     *     files that were, and are from now on, believed in them
     */
    @PostMapping("/boards/{id:\\d{1,15}}/files")
    String decide(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String job,
            @RequestParam(defaultValue = "") String first,
            @RequestParam List<String> file,
            @RequestParam List<String> scale,
            @RequestParam List<String> mirrored,
            @RequestParam List<String> down,
            @RequestParam(defaultValue = "") List<String> key,
            @RequestParam(defaultValue = "") List<String> was,
            @RequestParam(defaultValue = "") List<String> believed,
            Model model)
            throws IOException {
        if (scale.size() != file.size()
                || mirrored.size() != file.size()
                || down.size() != file.size()
                || was.size() != key.size()
                || believed.size() != key.size()) {
            throw new InvalidMember("file", "and what was chosen for it must come in pairs");
        }
        Map<String, Choices.AxesChoice> axes = new HashMap<>();
        for (int i = 0; i < file.size(); i++) {
            axes.put(file.get(i), new Choices.AxesChoice(scale(scale.get(i)), yes(mirrored.get(i)), yes(down.get(i))));
        }
        // What nobody touched stays open: with another file first it is decided anew.
        Map<String, String> rather = new HashMap<>(kept(id).believed());
        for (int i = 0; i < key.size(); i++) {
            if (!believed.get(i).equals(was.get(i))) {
                rather.put(key.get(i), believed.get(i));
            }
        }
        Choices choices = new Choices(Optional.of(first).filter(f -> !f.isEmpty()), axes, rather);
        try {
            long next = opening.reconcile(id, choices, mapper.writeValueAsString(choices), job);
            return "redirect:/boards/" + next + "/files" + (job.isEmpty() ? "" : "?job=" + job);
        } catch (BundleException | InvalidMember refused) {
            return show(id, job, kept(id), Optional.of(refused.getMessage()), model);
        }
    }

    private static OptionalDouble scale(String text) {
        return Layouts.scales().stream()
                .filter(s -> String.valueOf(s.doubleValue()).equals(text))
                .mapToDouble(Double::doubleValue)
                .findFirst();
    }

    private static Optional<Boolean> yes(String text) {
        return switch (text.toLowerCase(Locale.ROOT)) {
            case "true" -> Optional.of(true);
            case "false" -> Optional.of(false);
            default -> Optional.empty();
        };
    }
}
