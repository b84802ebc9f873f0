package ohmoscope.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import ohmoscope.core.board.InvalidMember;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DialectsTest {
    private static final String OWN = """
        {"name": "our old supply", "kind": "supply", "identified_by": "^OLD", "commands": {"identify": "ID?",
         "set_volts": "VSET {0}", "volts_set": "VSET?", "set_amps": "ISET {0}", "amps_set": "ISET?", "on": "OUT1", "off": "OUT0",
         "is_on": "OUT?", "volts": "VOUT?", "amps": "IOUT?"}}
        """;

    @Test
    void aShopsOwnStandBeforeTheShippedOnes(@TempDir Path folder) throws Exception {
        assertThat(Dialects.with(folder.resolve("none"))).isEqualTo(Dialects.shipped());
        Files.writeString(folder.resolve("old.json"), OWN);
        Files.writeString(folder.resolve("notes.txt"), "not a dialect");
        assertThat(Dialects.with(folder)).hasSize(Dialects.shipped().size() + 1);
        Dialect own = Dialects.with(folder).get(0);
        assertThat(own.name()).isEqualTo("our old supply");
        assertThat(own.line("set_volts", 1.25)).isEqualTo("VSET 1.2500");
        assertThat(own.speaks("OLD,1")).isTrue();
        assertThat(own.speaks("NEW,1")).isFalse();
        assertThat(own.number("V= 1.5e-1 V").orElseThrow()).isEqualTo(0.15);
        assertThat(own.number("----")).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "\"kind\": \"supply\"|\"kind\": \"oven\"|odd.json, kind must be supply or meter",
                "\"on\": \"OUT1\",||odd.json, commands must say how to \"on\"",
                "^OLD|(OLD|odd.json, identified_by is no pattern",
                "{\"name\"|{name|odd.json is no JSON"
            })
    void aFileThatCannotBeUsedSaysWhere(String was, String is, String says, @TempDir Path folder) throws Exception {
        Files.writeString(folder.resolve("odd.json"), OWN.replace(was, is == null ? "" : is));
        assertThatThrownBy(() -> Dialects.with(folder))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining(says);
    }

    @Test
    void theAssistantAsksAndSetsNothing() throws Exception {
        try (OnBench bench = new OnBench()) {
            Assistant.Found supply =
                    Assistant.ask(bench.supplyPlace(), Dialect.Kind.SUPPLY, Dialects.shipped(), Duration.ofSeconds(5));
            assertThat(supply.identity()).contains("Stand-in supply");
            assertThat(supply.best()).map(Dialect::name).contains("supply, the usual SCPI words");
            Assistant.Found meter = Assistant.ask(
                    new Place.Tcp(bench.meterAddress()), Dialect.Kind.METER, Dialects.shipped(), Duration.ofSeconds(5));
            assertThat(meter.best()).isPresent();
            assertThat(bench.log).filteredOn(l -> l.contains(" < ")).allMatch(l -> l.endsWith("?"));
        }
    }

    @Test
    void addressesAreAsTheyWereEntered() {
        assertThat(Address.of("127.0.0.1:5025").loopback()).isTrue();
        assertThat(Address.of("192.0.2.7:5025").loopback()).isFalse();
        for (String bad : new String[] {"", "5025", "host:", "host:99999", ":5025"}) {
            assertThatThrownBy(() -> Address.of(bad)).isInstanceOf(InvalidMember.class);
        }
    }
}
