package ohmoscope.web.rework;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.board.Part;
import ohmoscope.core.rework.AirGain;
import ohmoscope.core.rework.Kit;
import ohmoscope.core.rework.LeaveOff;
import ohmoscope.core.rework.Way;
import ohmoscope.formats.KitJson;
import ohmoscope.web.config.Technician;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.job.NamedPart;
import ohmoscope.web.job.OpenJobs;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.ReworkStore;
import ohmoscope.web.store.Transactions;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** How a part comes off, and how it did. */
@Controller
class ReworkController {
    private final OpenJobs openJobs;
    private final Bench bench;
    private final ReworkStore store;
    private final ReworkPlans plans;
    private final Transactions transactions;

    ReworkController(OpenJobs openJobs, Bench bench, ReworkStore store, ReworkPlans plans, Transactions transactions) {
        this.openJobs = openJobs;
        this.bench = bench;
        this.store = store;
        this.plans = plans;
        this.transactions = transactions;
    }

    @GetMapping("/jobs/{number}/rework")
    String rework(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String of,
            @RequestParam(defaultValue = "") String way,
            Principal principal,
            Model model)
            throws IOException {
        OpenJobs.Open open = openJobs.open(number, principal);
        Kit kit = kit(principal);
        Board board = open.job().board();
        Optional<Part> part = NamedPart.of(open, of);
        if (part.filter(board::placed).isEmpty()) {
            model.addAttribute("page", ReworkView.nobody(open, kit));
            return "rework";
        }
        Set<String> gone = new TreeSet<>(open.advice().now().absent());
        gone.remove(part.get().ref());
        model.addAttribute(
                "earlier",
                store
                        .ofModel(
                                open.job().row().boardId(),
                                open.job().row().id(),
                                part.get().ref())
                        .stream()
                        .map(ReworkWords::earlier)
                        .toList());
        double gain = AirGain.of(store.airTold(Technician.name(principal)));
        model.addAttribute(
                "page",
                ReworkView.of(
                        open,
                        plans.of(board, part.get(), kit, gone, gain),
                        LeaveOff.of(board, part.get(), gone),
                        kit,
                        way,
                        gain));
        return "rework";
    }

    private Kit kit(Principal principal) throws IOException {
        Optional<String> kept = store.kit(Technician.name(principal));
        return kept.isPresent() ? KitJson.read(kept.get(), "kit") : Kit.USUAL;
    }

    /**
     * The part is off.
     *
     * @param planned when its last joint was to melt
     * @param took when it did, seconds; empty where nobody looked
     */
    @PostMapping("/jobs/{number}/rework")
    String done(
            @PathVariable String number,
            @RequestParam String ref,
            @RequestParam Way.Method method,
            @RequestParam(defaultValue = "") String nozzle,
            @RequestParam(defaultValue = "") String set,
            @RequestParam(defaultValue = "") String planned,
            @RequestParam(defaultValue = "") String took,
            Principal principal)
            throws IOException {
        String by = Technician.name(principal);
        double gain = AirGain.of(store.airTold(by));
        OptionalDouble nozzleMm = number("nozzle", nozzle, 1, 40);
        OptionalDouble setC = number("set", set, 50, 600);
        OptionalDouble plannedS = number("planned", planned, 0, 600);
        OptionalDouble tookS = number("took", took, 0, 600);
        long job = openJobs.open(number, principal).job().row().id();
        // The entry and what it took stand or fall together.
        transactions.run(() -> {
            int seq = bench.lift(number, ref, method != Way.Method.COLD_LEVER, by);
            store.add(job, by, new ReworkStore.Done(seq, ref, method, nozzleMm, setC, plannedS, gain, tookS));
            return seq;
        });
        return "redirect:/jobs/" + number;
    }

    /** What the beeper said of one joint of a part that was put in. */
    @PostMapping("/jobs/{number}/rework/joint")
    String joint(
            @PathVariable String number,
            @RequestParam String ref,
            @RequestParam String pin,
            @RequestParam String to,
            @RequestParam boolean beeps,
            Principal principal)
            throws IOException {
        bench.beeped(number, ref, pin, to, beeps, Technician.name(principal));
        return "redirect:/jobs/" + number + "/rework?of=" + ref + "#joints";
    }

    private static OptionalDouble number(String name, String value, double low, double high) {
        if (value.isBlank()) {
            return OptionalDouble.empty();
        }
        try {
            double number = Double.parseDouble(value.trim().replace(',', '.'));
            if (number >= low && number <= high) {
                return OptionalDouble.of(number);
            }
        } catch (NumberFormatException noNumber) {
            // Said below.
        }
        throw new InvalidMember(
                name,
                "must be a number from " + Eng.fixed(low, 0) + " to " + Eng.fixed(high, 0) + ", was \"" + value + "\"");
    }

    /** Keeps what the technician has for this; a field that is left empty means that there is none. */
    @PostMapping("/jobs/{number}/rework/kit")
    String kit(
            @PathVariable String number,
            @RequestParam(defaultValue = "") String of,
            @RequestParam(defaultValue = "") String nozzles,
            @RequestParam(defaultValue = "") String air,
            @RequestParam(defaultValue = "") String litres,
            @RequestParam(defaultValue = "") String iron,
            @RequestParam(defaultValue = "") String preheat,
            @RequestParam(defaultValue = "false") boolean lowMelt,
            @RequestParam(defaultValue = "false") boolean screens,
            @RequestParam(defaultValue = "false") boolean tape,
            Principal principal) {
        List<Double> diameters = new ArrayList<>();
        for (String one : nozzles.trim().split("[\\s;]+")) {
            number("nozzles", one, 1, 40).ifPresent(diameters::add);
        }
        OptionalDouble airC = number("air", air, 150, 600);
        OptionalDouble flow = number("litres", litres, 2, 200);
        OptionalDouble ironC = number("iron", iron, 150, 500);
        OptionalDouble preheatC = number("preheat", preheat, 50, 250);
        Kit kit = new Kit(
                diameters.isEmpty() || airC.isEmpty()
                        ? Optional.empty()
                        : Optional.of(new Kit.Air(diameters, airC.getAsDouble(), flow.orElse(30))),
                ironC.isPresent() ? Optional.of(new Kit.Iron(ironC.getAsDouble())) : Optional.empty(),
                preheatC.isPresent() ? Optional.of(new Kit.Preheater(preheatC.getAsDouble())) : Optional.empty(),
                lowMelt,
                screens,
                tape);
        store.keepKit(Technician.name(principal), KitJson.write(kit));
        return "redirect:/jobs/" + number + "/rework" + (of.isEmpty() ? "" : "?of=" + of);
    }
}
