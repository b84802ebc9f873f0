package ohmoscope.core.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.OptionalDouble;
import ohmoscope.core.instrument.Supply.Shown;
import ohmoscope.core.live.ContactCheck.Outcome;
import org.junit.jupiter.api.Test;

class ContactCheckTest {
    private static final double LEADS = 0.05;

    private static ContactCheck of(double volts, double amps, double board) {
        return ContactCheck.of(new Shown(volts, amps, true, true, 0), OptionalDouble.of(board), LEADS);
    }

    @Test
    void leadsThatTouchShowTheShort() {
        ContactCheck check = of(0.015, 0.1, 0.010);
        assertThat(check.outcome()).isEqualTo(Outcome.TOUCHING);
        assertThat(check.ohms().getAsDouble()).isCloseTo(0.1, within(1e-9));
        assertThat(check.outcome().goOn()).isTrue();
    }

    @Test
    void nothingFlowsWhereNothingTouches() {
        assertThat(of(0.3, 0.0005, 0).outcome()).isEqualTo(Outcome.OPEN);
    }

    @Test
    void voltsThatTheBoardDoesNotSeeAreLostInAContact() {
        assertThat(of(0.28, 0.1, 0.01).outcome()).isEqualTo(Outcome.BAD_CONTACT);
    }

    @Test
    void aBoardBelowGroundIsConnectedTheWrongWayRound() {
        ContactCheck check = of(0.015, 0.1, -0.01);
        assertThat(check.outcome()).isEqualTo(Outcome.BACKWARDS);
        assertThat(check.outcome().goOn()).isFalse();
    }

    @Test
    void aRailWithVoltsOfItsOwnIsNotFedOnceMore() {
        assertThat(ContactCheck.fedAlready(OptionalDouble.of(3.7))).isTrue();
        assertThat(ContactCheck.fedAlready(OptionalDouble.of(0.004))).isFalse();
        assertThat(ContactCheck.fedAlready(OptionalDouble.empty())).isFalse();
        assertThat(ContactCheck.refused(OptionalDouble.of(3.7)).outcome().goOn())
                .isFalse();
    }

    @Test
    void withoutAMeterItSaysWhatItKnows() {
        assertThat(ContactCheck.of(new Shown(0.015, 0.1, true, true, 0), OptionalDouble.empty(), LEADS)
                        .outcome())
                .isEqualTo(Outcome.FLOWS);
    }
}
