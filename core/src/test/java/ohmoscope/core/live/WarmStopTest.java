package ohmoscope.core.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import ohmoscope.core.live.WarmPlace.What;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class WarmStopTest {
    private static final double WANTED_MM = 1;

    @ParameterizedTest
    @CsvSource({
        // A suspect: the place told, the frames sure, long enough.
        "SUSPECT,3,2.5,0.4,true,true,SHARP_ENOUGH",
        "SUSPECT,3,2.5,0.4,false,true,SHARP_ENOUGH",
        "SUSPECT,3,1.5,0.4,true,true,",
        "SUSPECT,3,2.5,1.4,true,true,",
        "SUSPECT,3,2.5,0.4,true,false,",
        "SUSPECT,31,0.5,3,true,false,HOT_ENOUGH",
        // A lead's contact is always a little warm.
        "LEAD,8,9,0.4,true,true,",
        "LEAD,13,0.5,0.4,true,false,LEAD_HOT",
        // No part of the rail: not while nobody has laid the picture.
        "OTHER,2,1.5,0.4,true,false,OTHER_WARMS",
        "OTHER,2,0.5,0.4,true,false,",
        "OTHER,2,9,0.4,false,false,"
    })
    void endsOrGoesOn(
            What what, double riseK, double onSeconds, double sigmaMm, boolean laid, boolean sure, Ending ending) {
        assertThat(new WarmStop(what, riseK, onSeconds, sigmaMm, laid, sure).ending(WANTED_MM))
                .isEqualTo(Optional.ofNullable(ending));
    }

    @ParameterizedTest
    @EnumSource
    void nothingIsRoasted(What what) {
        assertThat(new WarmStop(what, 40, 0.1, 5, false, false).ending(WANTED_MM))
                .contains(Ending.HOT_ENOUGH);
    }

    @Test
    void sharpEnoughIsAsPlannedAndTheOthersAreNot() {
        assertThat(Ending.SHARP_ENOUGH.asPlanned()).isTrue();
        assertThat(Ending.OTHER_WARMS.asPlanned()).isFalse();
        assertThat(Ending.LEAD_HOT.asPlanned()).isFalse();
    }
}
