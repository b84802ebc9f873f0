package ohmoscope.core.diagnose;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AccountTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Got hot on the charger, then nothing | true",
                "Died while charging, it smelled burnt | true",
                "Stopped one day, did not get hot | false",
                "Never warm, no smoke, just dead | false",
                "Not wet, but it was hot | true",
                "The case wasn't even warm | false",
                "Doesn't charge | false"
            })
    void heatIsReadWithItsNegation(String words, boolean hot) {
        assertThat(Account.of(words).hot()).isEqualTo(hot);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Fell into the sea | true",
                "Had water on it, indicators white | false",
                "Liquid indicators are white | false",
                "No liquid that we know of | false",
                "It rained, then it was dead | true",
                "Seaside holiday | false"
            })
    void liquidIsReadWithItsIndicators(String words, boolean wet) {
        assertThat(Account.of(words).wet()).isEqualTo(wet);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "No charge, port was crushed | true",
                "a pin stands up inside the port | true",
                "The port was replaced | false",
                "Port not bent | false"
            })
    void aPortThatSomebodySawHurt(String words, boolean hurt) {
        assertThat(Account.of(words).hurtPort()).isEqualTo(hurt);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"since a rough cable was used | true", "not the cable, it says | false"})
    void aCable(String words, boolean cable) {
        assertThat(Account.of(words).cable()).isEqualTo(cable);
    }
}
