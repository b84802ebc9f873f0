package ohmoscope.web.boards;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Net;
import ohmoscope.core.board.Part;
import ohmoscope.core.board.PortExpectation;
import ohmoscope.core.board.Range;
import ohmoscope.core.board.Role;
import ohmoscope.core.board.Supply;
import ohmoscope.core.layout.Edits;
import ohmoscope.formats.layout.GenericBoards;
import ohmoscope.web.config.NotFoundException;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.GoodStore;
import ohmoscope.web.store.Transactions;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** A board's rails and draws, put right by hand: each change is another version, and can be undone. */
@Controller
class TreeController {
    private static final double MOST_AMPS = 100;

    private final BoardStore boards;
    private final GoodStore good;
    private final Transactions transactions;

    TreeController(BoardStore boards, GoodStore good, Transactions transactions) {
        this.boards = boards;
        this.good = good;
        this.transactions = transactions;
    }

    @GetMapping("/boards/{id:\\d{1,15}}/tree")
    String tree(@PathVariable long id, @RequestParam(defaultValue = "") String of, Model model) throws IOException {
        show(id, of, Optional.empty(), model);
        return "board-tree";
    }

    private void show(long id, String of, Optional<String> refused, Model model) throws IOException {
        Board board = boards.board(id);
        model.addAttribute("page", TreeView.of(boards.row(id), board, good.draws(id), boards.versions(id)));
        model.addAttribute("wanted", of);
        model.addAttribute("refused", refused);
        model.addAttribute("nets", board.nets().stream().map(Net::name).toList());
        model.addAttribute("refs", board.parts().stream().map(Part::ref).toList());
        model.addAttribute("roles", List.of(Role.SERIES, Role.PASS, Role.REGULATOR, Role.CHARGER, Role.OTHER));
        model.addAttribute("classes", GenericBoards.all());
    }

    /** An edit that may be refused: then the page says why, and nothing is changed. */
    private interface Edit {
        Board of(Board board);
    }

    private String edited(long id, Model model, Edit edit) throws IOException {
        try {
            Board after = edit.of(boards.board(id));
            long next = transactions.run(() -> boards.edited(id, after));
            return "redirect:/boards/" + next + "/tree";
        } catch (InvalidMember refused) {
            show(id, "", Optional.of("The " + refused.getMessage() + "."), model);
            return "board-tree";
        }
    }

    /** A part makes a rail out of another. */
    @PostMapping("/boards/{id:\\d{1,15}}/tree/made")
    String made(
            @PathVariable long id,
            @RequestParam String part,
            @RequestParam String in,
            @RequestParam String out,
            @RequestParam(defaultValue = "") String enable,
            Model model)
            throws IOException {
        return edited(id, model, board -> {
            OptionalDouble volts = board.net(out.strip()).map(Net::nominalVolts).orElse(OptionalDouble.empty());
            return Edits.making(
                    board,
                    part.strip(),
                    new Supply(
                            in.strip(), out.strip(), Optional.of(enable.strip()).filter(e -> !e.isEmpty()), volts));
        });
    }

    @PostMapping("/boards/{id:\\d{1,15}}/tree/not-made")
    String notMade(@PathVariable long id, @RequestParam String part, @RequestParam String out, Model model)
            throws IOException {
        return edited(id, model, board -> Edits.notMaking(board, part, out));
    }

    /** What a part does between two rails. */
    @PostMapping("/boards/{id:\\d{1,15}}/tree/role")
    String role(@PathVariable long id, @RequestParam String part, @RequestParam Role role, Model model)
            throws IOException {
        return edited(
                id, model, board -> Edits.parts(board, List.of(part.strip()), Optional.empty(), Optional.of(role)));
    }

    /** What a good device draws at a port, amperes; an empty field leaves what was said. */
    @PostMapping("/boards/{id:\\d{1,15}}/tree/draws")
    String draws(
            @PathVariable long id,
            @RequestParam String port,
            @RequestParam(required = false) @Nullable Double standbyTo,
            @RequestParam(required = false) @Nullable Double runFrom,
            @RequestParam(required = false) @Nullable Double runTo,
            @RequestParam(required = false) @Nullable Double chargeFrom,
            @RequestParam(required = false) @Nullable Double chargeTo,
            Model model)
            throws IOException {
        return edited(id, model, board -> {
            Optional<PortExpectation> said = board.part(port.strip()).flatMap(Part::expects);
            return Edits.drawing(
                    board,
                    port.strip(),
                    new PortExpectation(
                            said.flatMap(PortExpectation::volts),
                            range("standby", standbyTo == null ? null : Double.valueOf(0), standbyTo)
                                    .or(() -> said.flatMap(PortExpectation::standbyAmps)),
                            range("run", runFrom, runTo).or(() -> said.flatMap(PortExpectation::runAmps)),
                            range("charge", chargeFrom, chargeTo).or(() -> said.flatMap(PortExpectation::chargeAmps)),
                            said.map(PortExpectation::reversible).orElse(false)));
        });
    }

    private static Optional<Range> range(String what, @Nullable Double from, @Nullable Double to) {
        if (from == null && to == null) {
            return Optional.empty();
        }
        if (from == null || to == null || from < 0 || to > MOST_AMPS || from > to) {
            throw new InvalidMember(
                    what + " draw", "needs two numbers from 0 to 100 A, the smaller one first, such as 0.3 and 1.2");
        }
        return Optional.of(new Range(from, to));
    }

    /** Draws as devices of a class have them. @param like the class's name in addresses */
    @PostMapping("/boards/{id:\\d{1,15}}/tree/class")
    String asClass(@PathVariable long id, @RequestParam String like, Model model) throws IOException {
        return edited(
                id,
                model,
                board -> Edits.drawingAs(board, GenericBoards.named(like).board()));
    }

    /**
     * Goes to another version of this family: undo, or an undo taken back. Where the library offers the one that is left, it
     * offers the other from now on.
     */
    @PostMapping("/boards/{id:\\d{1,15}}/tree/version")
    String version(@PathVariable long id, @RequestParam long to) {
        if (boards.versions(id).stream().noneMatch(v -> v.id() == to)) {
            throw new NotFoundException("This board has no such version.");
        }
        if (boards.row(id).offered()) {
            boards.offer(to);
        }
        return "redirect:/boards/" + to + "/tree";
    }
}
