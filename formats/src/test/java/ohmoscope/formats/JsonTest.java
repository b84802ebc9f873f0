package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import ohmoscope.core.Fixtures;
import ohmoscope.core.board.Side;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Change;
import ohmoscope.core.evidence.Observation.ChangeAction;
import ohmoscope.core.evidence.Observation.Inject;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.Power;
import ohmoscope.core.evidence.Observation.PowerSource;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.core.evidence.Observation.Run;
import ohmoscope.core.evidence.Observation.RunFinding;
import ohmoscope.core.evidence.Observation.Warm;
import ohmoscope.core.evidence.Observation.WarmthMeans;
import ohmoscope.core.heat.SlabParameters;
import ohmoscope.core.locate.LocateResult;
import ohmoscope.core.locate.SourceEstimate;
import ohmoscope.core.locate.Suspect;
import ohmoscope.core.locate.Verdict;
import ohmoscope.core.locate.Warning;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class JsonTest {
    @Property(tries = 200)
    void observationsGoThereAndBack(@ForAll("observations") Observation observation) throws IOException {
        assertThat(ObservationJson.read(ObservationJson.write(observation))).isEqualTo(observation);
    }

    @Provide
    Arbitrary<Observation> observations() {
        Arbitrary<Integer> seq = Arbitraries.integers().between(1, 9999);
        Arbitrary<OptionalDouble> number = Arbitraries.doubles()
                .between(-50, 50)
                .map(OptionalDouble::of)
                .injectNull(0.2)
                .map(v -> v == null ? OptionalDouble.empty() : v);
        Arbitrary<Optional<String>> word = Arbitraries.of("C1", "VSYS", "J2")
                .map(Optional::of)
                .injectNull(0.3)
                .map(v -> v == null ? Optional.empty() : v);
        Arbitrary<Observation> looks =
                seq.flatMap(s -> Arbitraries.of(LookFinding.class).map(f -> (Observation) new Look(s, "C1", f)));
        Arbitrary<Observation> reads = seq.flatMap(s -> number.flatMap(
                v -> Arbitraries.of(ReadMode.class).map(m -> (Observation) Fixtures.read(s, m, "VSYS", "C1", v))));
        Arbitrary<Observation> changes = seq.flatMap(s ->
                Arbitraries.of(ChangeAction.class).map(a -> (Observation) new Change(s, a, "C1", s % 2 == 0)));
        Arbitrary<Observation> runs = seq.flatMap(s ->
                word.flatMap(w -> Arbitraries.of(RunFinding.class).map(f -> (Observation) new Run(s, f, w))));
        Arbitrary<Observation> injections = seq.flatMap(s -> number.flatMap(v -> word.map(w -> (Observation)
                new Inject(s, "VSYS", w, v, v, v, v, leads(v), Optional.empty(), Optional.of(PowerSource.BENCH)))));
        Arbitrary<Observation> warm = seq.flatMap(s -> number.flatMap(v -> word.map(w -> (Observation)
                new Warm(s, w, v, v, Optional.of(Side.BOTTOM), Optional.of(WarmthMeans.TOUCH), v, v, s % 3 == 0))));
        Arbitrary<Observation> power = seq.flatMap(s -> number.flatMap(v -> word.map(w -> (Observation) new Power(
                s,
                PowerSource.CHARGER,
                w,
                w,
                Optional.of("a"),
                Optional.of(Observation.BatteryState.OUT),
                v,
                v,
                Observation.DeviceState.ON,
                Optional.of(Observation.TraceShape.BURST_THEN_ZERO),
                Optional.empty()))));
        return Arbitraries.oneOf(looks, reads, changes, runs, injections, warm, power);
    }

    @Test
    void anOverRangeReadingIsNull() throws IOException {
        String json = ObservationJson.write(Fixtures.read(1, ReadMode.DIODE, "VSYS", "C1", OptionalDouble.empty()));
        assertThat(json).contains("\"value\":null");
    }

    @Test
    void heatDefaultsByAction() throws IOException {
        assertThat(ObservationJson.read("{\"seq\":1,\"kind\":\"change\",\"action\":\"removed\",\"target\":\"J1\"}"))
                .isEqualTo(new Change(1, ChangeAction.REMOVED, "J1", true));
        assertThat(ObservationJson.read(
                        "{\"seq\":1,\"kind\":\"change\",\"action\":\"disconnected\",\"target\":\"J1\"}"))
                .isEqualTo(new Change(1, ChangeAction.DISCONNECTED, "J1", false));
    }

    @Test
    void aReadingWithoutAPlaceIsRefused() {
        assertThatThrownBy(() -> ObservationJson.read("{\"seq\":1,\"kind\":\"read\",\"mode\":\"ohms\",\"value\":2}"))
                .hasMessageContaining("needs net, ref or across");
    }

    @Test
    void locatePrintsTheContract() {
        var part = Fixtures.board().part("C3").orElseThrow();
        LocateResult result = new LocateResult(
                Verdict.PART,
                List.of(new Suspect(part, 0.93, 0.1)),
                0.01,
                0.02,
                Optional.of(new SourceEstimate(20.1, 14.2, Side.TOP, 0.3, 0.4, 0.2, 10, 0.12, OptionalDouble.empty())),
                Optional.empty(),
                new EnumMap<>(Map.of(Warning.CAMERA_DRIFT, 0.4)),
                List.of(),
                SlabParameters.expected(Fixtures.board()),
                List.of(),
                Optional.empty(),
                OptionalDouble.empty());
        JsonNode json = JsonMapper.builder().build().readTree(LocateJson.write(result, 412));
        assertThat(json.get("verdict").asString()).isEqualTo("part");
        assertThat(json.get("suspects").get(0).get("ref").asString()).isEqualTo("C3");
        assertThat(json.get("suspects").get(0).get("probability").asDouble()).isBetween(0.92, 0.93);
        assertThat(json.get("suspects").get(0).get("side").asString()).isEqualTo("top");
        assertThat(json.get("source").get("sigma_mm").asDouble()).isEqualTo(0.3);
        assertThat(json.get("warnings").get(0).get("code").asString()).isEqualTo("camera-drift");
        assertThat(json.get("elapsed_ms").asInt()).isEqualTo(412);
        assertThat(json.has("short")).isFalse();
    }

    @Test
    void everyWarningHasASentence() {
        for (Warning warning : Warning.values()) {
            assertThat(LocateJson.text(warning, 0.5)).endsWith(".").hasSizeGreaterThan(20);
        }
    }

    private static Schema schema(String name) throws IOException {
        String text = Files.readString(Path.of("../docs/formats/" + name));
        return SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(text);
    }

    @Test
    void whatIsWrittenFollowsThePublishedSchemas(@TempDir Path temp) throws IOException {
        Path folder = Bundles.folder(temp);
        String board = Files.readString(folder.resolve("board.json"));
        String bundle = Files.readString(folder.resolve("bundle.json"));
        assertThat(schema("board.schema.json").validate(board, InputFormat.JSON))
                .isEmpty();
        assertThat(schema("bundle.schema.json").validate(bundle, InputFormat.JSON))
                .isEmpty();
        assertThat(schema("bundle.schema.json").validate(bundle.replace("\"read\"", "\"guess\""), InputFormat.JSON))
                .isNotEmpty();
        assertThat(schema("board.schema.json").validate(board.replace("\"fuse\"", "\"wizard\""), InputFormat.JSON))
                .isNotEmpty();
    }

    private static OptionalDouble leads(OptionalDouble any) {
        return any.isPresent() ? OptionalDouble.of(Math.abs(any.getAsDouble()) % 1000) : any;
    }
}
