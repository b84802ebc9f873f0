package ohmoscope.web.boards;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.board.PartKind;
import ohmoscope.core.board.Role;
import ohmoscope.core.evidence.GoodReadings.Good;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.layout.Edits;
import ohmoscope.formats.BoardJson;
import ohmoscope.formats.BundleException;
import ohmoscope.formats.GoodCsv;
import ohmoscope.formats.layout.BoardTables;
import ohmoscope.web.config.Download;
import ohmoscope.web.config.Technician;
import ohmoscope.web.kit.Words;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.GoodStore;
import ohmoscope.web.store.Transactions;
import org.apache.commons.csv.CSVFormat;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The library of boards. */
@Controller
class BoardsController {
    /** Each is read for its picture. */
    private static final int MOST_CARDS = 60;

    private final BoardStore boards;
    private final GoodStore good;
    private final Transactions transactions;
    private final Clock clock;

    BoardsController(BoardStore boards, GoodStore good, Transactions transactions, Clock clock) {
        this.boards = boards;
        this.good = good;
        this.transactions = transactions;
        this.clock = clock;
    }

    @GetMapping("/boards")
    String boards(@RequestParam(name = "q", defaultValue = "") String words, Model model) throws IOException {
        List<BoardsView.Card> cards = new ArrayList<>();
        List<BoardStore.Row> rows = boards.library(words);
        for (BoardStore.Row row : rows.subList(0, Math.min(MOST_CARDS, rows.size()))) {
            cards.add(BoardsView.card(row, boards.board(row.id())));
        }
        model.addAttribute("cards", cards);
        model.addAttribute("more", rows.size() - cards.size());
        model.addAttribute("words", words);
        return "boards";
    }

    @GetMapping("/boards/{id:\\d{1,15}}")
    String board(
            @PathVariable long id,
            @RequestParam(name = "q", defaultValue = "") String words,
            @RequestParam(defaultValue = "") String net,
            @RequestParam(defaultValue = "") String from,
            @RequestParam(defaultValue = "") String to,
            Model model)
            throws IOException {
        try {
            show(id, new BoardsView.Asked(words, net.strip(), from.strip(), to.strip()), Optional.empty(), model);
        } catch (InvalidMember unknown) {
            show(id, BoardsView.Asked.NOTHING, Optional.of("The " + unknown.getMessage() + "."), model);
        }
        return "board";
    }

    private void show(long id, BoardsView.Asked asked, Optional<String> refused, Model model) throws IOException {
        model.addAttribute(
                "page",
                BoardsView.page(
                        boards, id, good.readings(id), good.behind(id), asked, clock.instant(), clock.getZone()));
        model.addAttribute("asked", asked);
        model.addAttribute("kinds", PartKind.values());
        model.addAttribute("roles", Role.values());
        model.addAttribute("netKinds", NetKind.values());
        model.addAttribute("refused", refused);
    }

    /** Another kind or role for parts that are ticked. */
    @PostMapping("/boards/{id:\\d{1,15}}/parts")
    String parts(
            @PathVariable long id,
            @RequestParam(defaultValue = "") List<String> refs,
            @RequestParam Optional<PartKind> kind,
            @RequestParam Optional<Role> role)
            throws IOException {
        return edited(id, Edits.parts(boards.board(id), refs, kind, role));
    }

    /** Another kind or voltage for a net. */
    @PostMapping("/boards/{id:\\d{1,15}}/nets")
    String net(
            @PathVariable long id,
            @RequestParam String net,
            @RequestParam NetKind kind,
            @RequestParam(required = false) @Nullable Double volts)
            throws IOException {
        OptionalDouble nominal = volts == null ? OptionalDouble.empty() : OptionalDouble.of(volts);
        return edited(id, Edits.net(boards.board(id), net, kind, nominal));
    }

    private String edited(long id, Board board) throws IOException {
        long next = transactions.run(() -> boards.edited(id, board));
        return "redirect:/boards/" + next;
    }

    /** Undo: an earlier version is the one that the library offers again. */
    @PostMapping("/boards/{id:\\d{1,15}}/offer")
    String offer(@PathVariable long id) {
        boards.offer(boards.row(id).id());
        return "redirect:/boards/" + id;
    }

    /** One reading of a good board, as somebody took it. */
    @PostMapping("/boards/{id:\\d{1,15}}/good/one")
    String goodOne(
            @PathVariable long id,
            @RequestParam String net,
            @RequestParam ReadMode mode,
            @RequestParam String value,
            @RequestParam(defaultValue = "red") String lead,
            @RequestParam(defaultValue = "") String point,
            @RequestParam(defaultValue = "") String meter,
            Principal principal,
            Model model)
            throws IOException {
        String row = "net,mode,value,lead,point,meter\n"
                + CSVFormat.DEFAULT.format(
                        net.strip(),
                        Words.plain(mode),
                        value.strip().replace(',', '.'),
                        lead,
                        point.strip(),
                        meter.strip());
        return taken(id, row, "what was typed", principal, model);
    }

    /** Good readings from a table, all or none. */
    @PostMapping("/boards/{id:\\d{1,15}}/good")
    String good(@PathVariable long id, @RequestParam MultipartFile table, Principal principal, Model model)
            throws IOException {
        return taken(
                id,
                new String(table.getBytes(), StandardCharsets.UTF_8),
                Optional.ofNullable(table.getOriginalFilename()).orElse("table"),
                principal,
                model);
    }

    private String taken(long id, String table, String name, Principal principal, Model model) throws IOException {
        String by = Technician.name(principal);
        try {
            List<Good> readings = GoodCsv.read(table, name, boards.board(id));
            transactions.run(() -> {
                readings.forEach(g -> good.add(id, g, by));
                return readings.size();
            });
            return "redirect:/boards/" + id;
        } catch (BundleException refused) {
            show(id, BoardsView.Asked.NOTHING, Optional.of(refused.getMessage()), model);
            return "board";
        }
    }

    @GetMapping("/boards/{id:\\d{1,15}}/good.csv")
    ResponseEntity<byte[]> good(@PathVariable long id) {
        return file("good.csv", "text/csv", GoodCsv.write(good.readings(id)));
    }

    @GetMapping("/boards/{id:\\d{1,15}}/board.json")
    ResponseEntity<byte[]> json(@PathVariable long id) throws IOException {
        return file(
                "board.json",
                "application/json",
                new String(BoardJson.write(boards.board(id)), StandardCharsets.UTF_8));
    }

    @GetMapping("/boards/{id:\\d{1,15}}/centroid.csv")
    ResponseEntity<byte[]> centroid(@PathVariable long id) throws IOException {
        return file("centroid.csv", "text/csv", BoardTables.centroid(boards.board(id)));
    }

    @GetMapping("/boards/{id:\\d{1,15}}/netlist.ipc")
    ResponseEntity<byte[]> netlist(@PathVariable long id) throws IOException {
        return file("netlist.ipc", "text/plain", BoardTables.ipc356(boards.board(id)));
    }

    @GetMapping("/boards/{id:\\d{1,15}}/board.svg")
    ResponseEntity<byte[]> svg(@PathVariable long id) throws IOException {
        Thumbnail picture = Thumbnail.of(boards.board(id));
        return file(
                "board.svg",
                "image/svg+xml",
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"" + picture.viewBox()
                        + "\" fill=\"none\" stroke=\"#1d2730\" stroke-width=\"0.15\"><polygon points=\""
                        + picture.outline() + "\"/><path d=\"" + picture.bodies() + "\"/></svg>\n");
    }

    private static ResponseEntity<byte[]> file(String name, String type, String text) {
        return Download.of(name, MediaType.valueOf(type), text.getBytes(StandardCharsets.UTF_8));
    }
}
