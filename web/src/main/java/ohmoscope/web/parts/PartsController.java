package ohmoscope.web.parts;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ohmoscope.core.board.BoardIndex;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.parts.Donor;
import ohmoscope.core.parts.NewOrDonor;
import ohmoscope.core.parts.Tolerance;
import ohmoscope.core.parts.WantedPart;
import ohmoscope.core.rework.LeaveOff;
import ohmoscope.web.config.BoardNames;
import ohmoscope.web.job.JobHead;
import ohmoscope.web.job.NamedPart;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.store.BoardStore;
import ohmoscope.web.store.ShopCostStore;
import ohmoscope.web.store.StockStore;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What the named part is replaced by, and where that comes from. */
@Controller
class PartsController {
    private static final int MOST_BOARDS = 40;
    private static final int MOST_DONORS = 12;

    private final OpenJobs openJobs;
    private final BoardStore boards;
    private final StockStore stock;
    private final ShopCostStore costs;

    PartsController(OpenJobs openJobs, BoardStore boards, StockStore stock, ShopCostStore costs) {
        this.costs = costs;
        this.openJobs = openJobs;
        this.boards = boards;
        this.stock = stock;
    }

    /** The desk for one part; without a part there is only {@code head}. */
    record Page(
            JobHead head,
            String ref,
            List<String> facts,
            String printed,
            List<String> readings,
            String school,
            String paired,
            String leaveOff,
            List<DonorLine> donors,
            List<StockLine> stock,
            int looked,
            Optional<OrderView> order) {
        /** Nothing is named. */
        static Page of(JobHead head) {
            return new Page(head, "", List.of(), "", List.of(), "", "", "", List.of(), List.of(), 0, Optional.empty());
        }
    }

    /** A place on another board. */
    record DonorLine(String board, String ref, String fit, String how) {}

    /** What the shop has of it. */
    record StockLine(long id, String words, String fit, int count, String place) {}

    @GetMapping("/jobs/{number}/parts")
    String parts(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String of,
            @RequestParam(defaultValue = "") String printed,
            Principal principal,
            Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        Optional<Part> part = NamedPart.provenOrNamed(open, of);
        if (part.isEmpty()) {
            model.addAttribute("page", Page.of(open.head()));
            return "parts";
        }
        WantedPart wanted = WantedPart.of(open.job().board(), part.get());
        List<Donor.From> library = library(
                BoardNames.of(open.job().board().name(), open.job().board().revision()));
        model.addAttribute(
                "page",
                new Page(
                        open.head(),
                        part.get().ref(),
                        WantedWords.facts(
                                wanted, Tolerance.of(new BoardIndex(open.job().board()), part.get())),
                        printed,
                        MarkingWords.of(wanted, printed),
                        WantedWords.school(NewOrDonor.of(wanted)),
                        part.get().pairedWith().orElse(""),
                        LeaveOff.of(
                                        open.job().board(),
                                        part.get(),
                                        open.advice().now().absent())
                                .filter(l -> l.verdict() == LeaveOff.Verdict.MAY_STAY_OFF)
                                .map(l -> "It may stay off: " + l.others() + " more stand on " + l.rail() + ".")
                                .orElse(""),
                        Donor.of(wanted, library).stream()
                                .limit(MOST_DONORS)
                                .map(d ->
                                        new DonorLine(d.board(), d.ref(), WantedWords.fit(d.fit()), WantedWords.how(d)))
                                .toList(),
                        stock(wanted),
                        library.size(),
                        OrderView.of(open, part.get(), costs.prices(), stock.all())));
        return "parts";
    }

    private List<StockLine> stock(WantedPart wanted) {
        return stock.of(wanted.part().kind()).stream()
                .filter(k -> k.line().fit(wanted) != WantedPart.Fit.NO)
                .map(k -> new StockLine(
                        k.id(),
                        WantedWords.of(k.line()),
                        WantedWords.fit(k.line().fit(wanted)),
                        k.line().count(),
                        k.line().place()))
                .toList();
    }

    /** The library's boards with places of their own, those with most jobs first. @param own what the job's is called */
    private List<Donor.From> library(String own) throws IOException {
        List<Donor.From> from = new ArrayList<>();
        for (BoardStore.Row row : boards.library("")) {
            if (from.size() < MOST_BOARDS && !BoardNames.ofClass(row.revision())) {
                String name = BoardNames.of(row.name(), row.revision());
                from.add(new Donor.From(name.equals(own) ? "another " + name : name, boards.board(row.id())));
            }
        }
        return from;
    }

    /** One is taken from the shop's list. */
    @PostMapping("/jobs/{number}/parts/take")
    String take(@PathVariable String number, @RequestParam long id, @RequestParam String of) {
        if (!stock.take(id)) {
            throw new InvalidMember("id", "names no line with one left: look at the list again");
        }
        return "redirect:/jobs/" + number + "/parts?of=" + of;
    }
}
