package ohmoscope.web.parts;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.parts.StockLine;
import ohmoscope.formats.StockCsv;
import ohmoscope.web.config.Download;
import ohmoscope.web.kit.Eng;
import ohmoscope.web.store.ShopCostStore;
import ohmoscope.web.store.StockStore;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The shop's own list of parts. */
@Controller
class StockController {
    private static final int MOST_BYTES = 5_000_000;

    private final StockStore stock;
    private final ShopCostStore costs;

    StockController(StockStore stock, ShopCostStore costs) {
        this.costs = costs;
        this.stock = stock;
    }

    /** A line of the list, as pages print it. */
    record Line(
            String kind,
            String value,
            String packageName,
            String rated,
            int count,
            int least,
            String place,
            String price,
            boolean low) {
        static Line of(StockStore.Kept kept) {
            StockLine line = kept.line();
            return new Line(
                    line.kind().name().toLowerCase(Locale.ROOT),
                    line.value(),
                    line.packageName(),
                    WantedWords.rated(line),
                    line.count(),
                    line.least(),
                    line.place(),
                    line.price().isPresent() ? Eng.fixed(line.price().getAsDouble(), 2) : "",
                    line.runsOut());
        }
    }

    @GetMapping("/parts")
    String parts(Model model) {
        model.addAttribute("lines", stock.all().stream().map(Line::of).toList());
        model.addAttribute("costs", CostForm.of(costs.minutes(), costs.prices()));
        return "stock";
    }

    @GetMapping("/parts.csv")
    ResponseEntity<byte[]> csv() {
        String text =
                StockCsv.write(stock.all().stream().map(StockStore.Kept::line).toList());
        return Download.of(
                "parts.csv",
                new MediaType("text", "csv", StandardCharsets.UTF_8),
                text.getBytes(StandardCharsets.UTF_8));
    }

    /** Keeps what things cost here; a field that is left empty is as usual. */
    @PostMapping("/parts/costs")
    String costs(@RequestParam Map<String, String> fields) {
        costs.replace(CostForm.amounts(fields));
        return "redirect:/parts#costs";
    }

    @PostMapping("/parts")
    String replace(@RequestParam MultipartFile file) throws IOException {
        if (file.getSize() > MOST_BYTES) {
            throw new InvalidMember("file", "is larger than " + MOST_BYTES / 1_000_000 + " MB");
        }
        String called = file.getOriginalFilename() == null ? "parts.csv" : file.getOriginalFilename();
        stock.replace(StockCsv.read(file.getInputStream(), called));
        return "redirect:/parts";
    }
}
