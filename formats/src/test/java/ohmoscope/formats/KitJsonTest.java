package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.Optional;
import ohmoscope.core.rework.Kit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class KitJsonTest {
    @Test
    void aKitComesBackAsItWasWritten() throws IOException {
        assertThat(KitJson.read(KitJson.write(Kit.USUAL), "kit")).isEqualTo(Kit.USUAL);
        Kit bare = new Kit(Optional.empty(), Optional.of(new Kit.Iron(380)), Optional.empty(), false, true, false);
        assertThat(KitJson.read(KitJson.write(bare), "kit")).isEqualTo(bare);
        assertThat(KitJson.read("{}", "kit").air()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "{\"iron\": {}}|iron.most_c|is missing",
                "{\"air\": {\"nozzles_mm\": 4, \"most_c\": 400, \"litres_per_min\": 30}}|air.nozzles_mm|list of numbers",
                "{\"air\": {\"nozzles_mm\": [], \"most_c\": 400, \"litres_per_min\": 30}}|air.nozzles_mm|names no nozzle",
                "{\"preheater\": {\"most_c\": \"hot\"}}|preheater.most_c|number",
                "{\"low_melt\": 3}|low_melt|",
                "[]||one JSON object"
            })
    void whatIsNoKitIsRefusedByItsMember(String json, String member, String says) {
        assertThatThrownBy(() -> KitJson.read(json, "my-kit.json"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("my-kit.json")
                .hasMessageContaining(member == null ? "" : member)
                .hasMessageContaining(says == null ? "" : says);
    }
}
