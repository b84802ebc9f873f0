package ohmoscope.web.begin;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.Check;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.evidence.Named;
import ohmoscope.core.layout.Choices;
import ohmoscope.core.layout.Layouts;
import ohmoscope.core.layout.Note;
import ohmoscope.core.photomap.PhotoMap;
import ohmoscope.formats.BoardJson;
import ohmoscope.formats.layout.GenericBoards;
import ohmoscope.formats.layout.LayoutFiles;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.IntakeStore;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.Transactions;
import org.springframework.stereotype.Service;
import org.springframework.web.multipart.MultipartFile;

/** Puts a job on the shelf for a device of which little is known: all of it, or nothing. */
@Service
class Opening {
    private static final int LONGEST_TITLE = 300;
    private static final int LONGEST_DEVICE = 120;
    private static final int LONGEST_ACCOUNT = 4_000;
    private static final int HEAD = 400;
    private static final int MOST_NAMED = 8;
    /** The choice of an empty board. */
    static final String PHOTOGRAPHS = "photographs";

    private static final String SHELVED = "shelved:";
    private static final String GENERIC = "generic:";

    private final JobStore jobs;
    private final BoardStore boards;
    private final JobFile files;
    private final Bench bench;
    private final Transactions transactions;
    private final Clock clock;

    Opening(JobStore jobs, BoardStore boards, JobFile files, Bench bench, Transactions transactions, Clock clock) {
        this.jobs = jobs;
        this.boards = boards;
        this.files = files;
        this.bench = bench;
        this.transactions = transactions;
        this.clock = clock;
    }

    /**
     * What was said at the counter.
     *
     * @param battery {@code in}, {@code out}, or empty where nobody looked yet
     * @param board {@code shelved:ID} or {@code generic:NAME}; files take its place
     */
    record Said(String number, String device, String account, String battery, String board) {
        Said {
            if (device.isBlank() || device.length() > LONGEST_DEVICE || !Check.printable(device)) {
                throw new InvalidMember("device", "must have 1 to " + LONGEST_DEVICE + " characters");
            }
            if (account.length() > LONGEST_ACCOUNT) {
                throw new InvalidMember("account", "must not be longer than " + LONGEST_ACCOUNT + " characters");
            }
            if (!number.isEmpty() && !JobStore.usable(number)) {
                throw new InvalidMember("number", "must have 1 to 40 letters, digits, dots, underscores or hyphens");
            }
        }
    }

    /** A job on the shelf. @param disagree the board whose files do not say the same */
    record Opened(String number, Optional<Long> disagree) {}

    /**
     * @throws IOException with one sentence for a file that cannot be used
     */
    Opened open(Said said, List<MultipartFile> uploads, String by) throws IOException {
        // A file may take its seconds: it is read before anything is locked.
        Optional<Given> given = given(uploads);
        String number = transactions.run(() -> store(said, given, by));
        boolean disagree = given.map(g -> !g.laid().disagreements().isEmpty()
                        || g.laid().files().stream().anyMatch(f -> f.placed() > 0 && !f.used()))
                .orElse(false);
        return new Opened(number, disagree ? Optional.of(jobs.named(number).boardId()) : Optional.empty());
    }

    private String store(Said said, Optional<Given> given, String by) throws IOException {
        String number = said.number().isEmpty() ? jobs.nextNumber() : said.number();
        long boardId = under(said.device(), said.board(), given);
        String title = said.account().isBlank()
                ? said.device()
                : said.account().lines().findFirst().orElse("").strip();
        long id = jobs.add(new JobStore.Opening(
                        number,
                        title.substring(0, Math.min(LONGEST_TITLE, title.length())),
                        said.device().strip(),
                        boardId,
                        Optional.empty(),
                        clock.instant()))
                .orElseThrow(() -> new InvalidMember("number", "is " + number + ", which another job has"));
        bench.receive(number, new IntakeStore.Intake(said.account().strip(), "", "", List.of()), by);
        switch (said.battery()) {
            case "out" -> bench.enter(number, "unplugged battery", by);
            case "in" -> bench.enter(number, "plugged battery", by);
            default -> files.refreshState(id);
        }
        return number;
    }

    /**
     * Puts another board under a job that has begun: its entries stay.
     *
     * @throws InvalidMember where the other board lacks what the entries name, or frames lie over the one that is there
     */
    void exchange(String number, String board, List<MultipartFile> uploads) throws IOException {
        JobFile.Stored job = files.withoutTraces(number);
        Optional<Given> given = given(uploads);
        String device =
                job.row().device().isEmpty() ? job.board().name() : job.row().device();
        transactions.run(() -> put(job, under(device, board, given)));
    }

    /**
     * Reads a board's files again, with what was decided where they disagree, as its next version.
     *
     * @param number the job that goes over to it; empty where none does
     * @return the version's id
     * @throws IOException with one sentence where the files give no board that way
     */
    long reconcile(long id, Choices choices, String kept, String number) throws IOException {
        BoardStore.Row row = boards.row(id);
        Layouts.Laid laid = read(boards.files(id), choices).called(row.name(), row.revision());
        Optional<JobFile.Stored> job = number.isEmpty() ? Optional.empty() : Optional.of(files.withoutTraces(number));
        return transactions.run(() -> {
            long next = boards.edited(id, laid.board(), notes(laid));
            boards.choose(next, kept);
            if (job.isPresent()) {
                put(job.get(), next);
            }
            return next;
        });
    }

    private long put(JobFile.Stored job, long id) throws IOException {
        if (!job.bundle().captures().isEmpty()) {
            throw new InvalidMember(
                    "board", "cannot be exchanged: this job's frames are laid over the one that it has");
        }
        Board other = boards.board(id);
        List<String> unknown = Named.unknownOn(other, job.bundle().observations());
        if (!unknown.isEmpty()) {
            throw new InvalidMember(
                    "board",
                    "does not have " + String.join(", ", unknown.subList(0, Math.min(MOST_NAMED, unknown.size())))
                            + (unknown.size() > MOST_NAMED ? " and more" : "")
                            + ", which entries name: add them there as points, or withdraw the entries");
        }
        if (job.row().statedRail().filter(r -> other.net(r).isEmpty()).isPresent()) {
            jobs.setRail(job.row().id(), Optional.empty());
        }
        jobs.setBoard(job.row().id(), id);
        files.refreshState(job.row().id());
        return id;
    }

    /** What was given of a board. @param files as they are, where there are several that may disagree */
    private record Given(Layouts.Laid laid, List<BoardStore.File> files) {}

    /** The board that files or a choice give for a device. */
    private long under(String device, String choice, Optional<Given> given) throws IOException {
        if (given.isEmpty()) {
            return chosen(choice, device);
        }
        Layouts.Laid laid = given.get().laid();
        long id = boards.add(named(laid.board(), device), true, notes(laid));
        boards.keepFiles(id, given.get().files());
        return id;
    }

    private static List<String> notes(Layouts.Laid laid) {
        return laid.notes().stream().map(Note::toString).toList();
    }

    private long chosen(String board, String device) throws IOException {
        if (board.startsWith(GENERIC)) {
            // It becomes this device's own: its points and good readings are nobody else's.
            return boards.add(
                    GenericBoards.of(board.substring(GENERIC.length()), device.strip()),
                    true,
                    List.of("guessed: every place, part and rail: a board of its class, nobody has seen this one"));
        }
        if (board.equals(PHOTOGRAPHS)) {
            return boards.add(
                    PhotoMap.blank(device.strip(), GenericBoards.CLASS + "nothing known yet"),
                    true,
                    List.of("guessed: nothing: its parts go on photographs"));
        }
        String id = board.startsWith(SHELVED) ? board.substring(SHELVED.length()) : "";
        return boards.library("").stream()
                .filter(b -> String.valueOf(b.id()).equals(id))
                .findFirst()
                .map(BoardStore.Row::id)
                .orElseThrow(() -> new InvalidMember(
                        "board", "is not chosen: take one of the shop's, a class of device, or give its files"));
    }

    /** A layout that has no name of its own is called as the device is. */
    private static Board named(Board board, String device) {
        boolean file = board.name().matches(".*\\.[A-Za-z0-9_]{2,9}");
        return file ? board.called(device.strip(), board.revision()) : board;
    }

    /** What the files that were given say; empty where none was. */
    private static Optional<Given> given(List<MultipartFile> uploads) throws IOException {
        List<BoardStore.File> files = new ArrayList<>();
        for (MultipartFile upload : uploads) {
            if (!upload.isEmpty()) {
                files.add(new BoardStore.File(name(upload), upload.getBytes()));
            }
        }
        if (files.isEmpty()) {
            return Optional.empty();
        }
        if (files.size() == 1) {
            byte[] bytes = files.get(0).content();
            String head = new String(bytes, 0, Math.min(HEAD, bytes.length), StandardCharsets.UTF_8);
            if (head.contains("ohmoscope-board")) {
                Board board = BoardJson.read(
                        new ByteArrayInputStream(bytes), files.get(0).name());
                return Optional.of(new Given(new Layouts.Laid(board), List.of()));
            }
        }
        return Optional.of(new Given(read(files, Choices.NONE), files.size() == 1 ? List.of() : files));
    }

    static Layouts.Laid read(List<BoardStore.File> files, Choices choices) throws IOException {
        return new LayoutFiles()
                .read(
                        files.stream()
                                .map(f -> LayoutFiles.Source.of(f.name(), f.content()))
                                .toList(),
                        choices);
    }

    private static String name(MultipartFile file) {
        return Optional.ofNullable(file.getOriginalFilename())
                .filter(n -> !n.isBlank())
                .orElse("file");
    }
}
