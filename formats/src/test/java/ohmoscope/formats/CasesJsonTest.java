package ohmoscope.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.core.diagnose.Hypothesis.Code;
import ohmoscope.core.job.SharedCase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CasesJsonTest {
    private static final SharedCase FULL = new SharedCase(
            "Heron console",
            "r2",
            Optional.of("VMAIN"),
            "Mrs Aspen (017 555) says it does not charge since it fell in water",
            Optional.of(Code.SHORT),
            "C14",
            OptionalDouble.of(0.03),
            OptionalDouble.of(1.9));
    private static final SharedCase BARE = new SharedCase(
            "Heron console",
            "",
            Optional.empty(),
            "",
            Optional.empty(),
            "U3",
            OptionalDouble.empty(),
            OptionalDouble.empty());

    @Test
    void casesComeBackAndNothingOfTheCustomerGoesAlong() throws IOException {
        String json = new String(CasesJson.write(List.of(FULL, BARE)), StandardCharsets.UTF_8);
        assertThat(CasesJson.read(json, "cases")).containsExactly(FULL, BARE);
        assertThat(json).contains("charge fell not water").doesNotContain("Aspen", "017", "says");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "{}|cases|holds no case",
                "{\"cases\": [{\"board\": \"Heron\"}]}|cases[0].part|is missing",
                "{\"cases\": [{\"part\": \"C1\"}]}|cases[0].board|is missing",
                "{\"cases\": [{\"board\": \"Heron\", \"part\": \"C1\", \"fault\": \"tired\"}]}|cases[0].fault|must be one of",
                "{\"cases\": [{\"board\": \"Heron\", \"part\": \"C1\", \"ohms\": \"low\"}]}|cases[0].ohms|number",
                "{\"cases\": 4}|cases|must be a list"
            })
    void whatHoldsNoCasesIsRefusedByItsMember(String json, String member, String says) {
        assertThatThrownBy(() -> CasesJson.read(json, "other-shop.json"))
                .isInstanceOf(BundleException.class)
                .hasMessageContaining("other-shop.json")
                .hasMessageContaining(member)
                .hasMessageContaining(says);
    }
}
