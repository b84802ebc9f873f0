package ohmoscope.web.live;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.instrument.InstrumentException;
import ohmoscope.core.instrument.ThermalCamera;
import ohmoscope.instruments.Assistant;
import ohmoscope.instruments.Dialect;
import ohmoscope.instruments.Dialects;
import ohmoscope.instruments.Place;
import ohmoscope.web.config.Settings;
import ohmoscope.web.store.BenchStore;
import ohmoscope.web.store.BenchStore.Entered;
import ohmoscope.web.store.BenchStore.Role;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The shop's benches: where each instrument is reached, and whether it answers. */
@Controller
class BenchesController {
    private static final Duration PATIENCE = Duration.ofSeconds(2);

    private final BenchStore benches;
    private final Settings settings;

    BenchesController(BenchStore benches, Settings settings) {
        this.benches = benches;
        this.settings = settings;
    }

    /** A bench as the page shows it. */
    record Bench(long id, String name, List<Line> lines) {}

    /** @param dialects to choose from; none for what speaks none @param hint what an address may look like */
    record Line(
            String role,
            String word,
            String address,
            String dialect,
            boolean beyond,
            String kelvinPerCount,
            String kelvinAtZero,
            List<String> dialects,
            String hint) {}

    @GetMapping("/benches")
    String benches(Model model) throws IOException {
        List<Dialect> known = Dialects.with(settings.dialects());
        List<Bench> shown = new ArrayList<>();
        for (BenchStore.Named bench : benches.all()) {
            List<Entered> entered = benches.of(bench.id());
            List<Line> lines = new ArrayList<>();
            for (Role role : Role.values()) {
                lines.add(line(
                        role, entered.stream().filter(e -> e.role() == role).findFirst(), known));
            }
            shown.add(new Bench(bench.id(), bench.name(), lines));
        }
        model.addAttribute("benches", shown);
        return "benches";
    }

    private static Line line(Role role, Optional<Entered> entered, List<Dialect> known) {
        Optional<Dialect.Kind> kind = kind(role);
        return new Line(
                role.name(),
                word(role),
                entered.map(Entered::address).orElse(""),
                entered.map(Entered::dialect).orElse(""),
                entered.map(Entered::beyond).orElse(false),
                String.valueOf(entered.map(Entered::kelvinPerCount).orElse(0.01)),
                String.valueOf(entered.map(Entered::kelvinAtZero).orElse(0.0)),
                known.stream()
                        .filter(d -> kind.filter(d.kind()::equals).isPresent())
                        .map(Dialect::name)
                        .toList(),
                switch (role) {
                    case SUPPLY, METER -> "127.0.0.1:5025 or serial:/dev/ttyUSB0@9600";
                    case CAMERA -> "127.0.0.1:5027 or disk:/home/bench/frames";
                    case INLINE -> "serial:/dev/ttyACM0@115200 or disk:/home/bench/log.csv";
                });
    }

    private static Optional<Dialect.Kind> kind(Role role) {
        return switch (role) {
            case SUPPLY -> Optional.of(Dialect.Kind.SUPPLY);
            case METER -> Optional.of(Dialect.Kind.METER);
            default -> Optional.empty();
        };
    }

    private static String word(Role role) {
        return role == Role.INLINE
                ? "Inline meter"
                : role.name().charAt(0) + role.name().substring(1).toLowerCase(Locale.ROOT);
    }

    @PostMapping("/benches")
    String add(@RequestParam String name) {
        benches.add(name.strip());
        return "redirect:/benches";
    }

    @PostMapping("/benches/{id}/remove")
    String remove(@PathVariable long id) {
        benches.remove(id);
        return "redirect:/benches";
    }

    /** Keeps an address, or asks what answers there: which of the two the pressed button says. */
    @PostMapping("/benches/{id}/instruments")
    String keep(
            @PathVariable long id,
            @RequestParam Role role,
            @RequestParam String address,
            @RequestParam(defaultValue = "") String dialect,
            @RequestParam(defaultValue = "false") boolean beyond,
            @RequestParam @Nullable Double scale,
            @RequestParam @Nullable Double zero,
            @RequestParam(defaultValue = "keep") String act,
            Model model)
            throws IOException {
        if (address.isBlank()) {
            benches.letGo(id, role);
            return "redirect:/benches";
        }
        Entered entered = new Entered(
                role, address.strip(), dialect, beyond, scale == null ? 0.01 : scale, zero == null ? 0 : zero);
        try {
            Place place = Instruments.place(entered);
            if (act.equals("ask")) {
                model.addAttribute("answers", asked(entered, place));
            } else {
                try (Instruments whole = Instruments.of(
                        List.of(entered), settings.dialects(), System::nanoTime, settings.keySilence())) {
                    benches.keep(id, entered);
                }
                return "redirect:/benches";
            }
        } catch (InvalidMember refused) {
            model.addAttribute("problem", "Nothing was kept. The " + refused.getMessage() + ".");
        }
        model.addAttribute("about", id + "-" + role.name());
        model.addAttribute("typed", entered.address());
        return benches(model);
    }

    /** What stands there, in lines; it is only asked, nothing is set. */
    private List<String> asked(Entered entered, Place place) throws IOException {
        List<String> lines = new ArrayList<>();
        Optional<Dialect.Kind> kind = kind(entered.role());
        try {
            if (kind.isPresent()) {
                Assistant.Found found = Assistant.ask(place, kind.get(), Dialects.with(settings.dialects()), PATIENCE);
                lines.add(found.identity());
                found.tried()
                        .forEach(t -> lines.add(t.dialect().name() + ": " + t.answered() + " of "
                                + t.asked().size() + " questions understood"));
                lines.add(found.best()
                        .map(d -> "speaks: " + d.name())
                        .orElse("speaks none of the dialects: write one of its own, as docs/instruments.md says"));
            } else {
                lines.addAll(looked(entered));
            }
        } catch (InstrumentException silent) {
            lines.add(silent.getMessage());
        }
        return lines;
    }

    private List<String> looked(Entered entered) throws IOException {
        try (Instruments one =
                Instruments.of(List.of(entered), settings.dialects(), System::nanoTime, settings.keySilence())) {
            if (one.camera().isPresent()) {
                ThermalCamera.Frame frame = one.camera().get().next();
                return List.of(
                        "a frame of " + frame.width() + "×" + frame.height(),
                        one.camera().get().scale().kelvinPerCount() + " K a count");
            }
            for (long until = System.nanoTime() + PATIENCE.toNanos(); System.nanoTime() < until; ) {
                var samples = one.inline().orElseThrow().since();
                if (!samples.isEmpty()) {
                    return List.of(
                            samples.get(0).volts() + " V, " + samples.get(0).amps() + " A");
                }
                Thread.sleep(50);
            }
            return List.of("no line with volts and amperes within " + PATIENCE.toSeconds() + " s");
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            return List.of("interrupted");
        }
    }
}
