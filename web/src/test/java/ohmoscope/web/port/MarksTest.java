package ohmoscope.web.port;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.port.PortDamage.Mark;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class MarksTest {
    @Test
    void theyComeBackFromTheAddress() {
        Map<String, Mark> marks = Map.of("A4", Mark.TOUCHES_NEXT, "B12", Mark.MISSING, "3", Mark.BENT);
        assertThat(Marks.read(Marks.write(marks))).isEqualTo(marks);
        assertThat(Marks.read("")).isEmpty();
    }

    @Test
    void fourTapsAreNone() {
        Map<String, Mark> marks = Map.of();
        for (Mark expected : new Mark[] {Mark.TOUCHES_NEXT, Mark.BENT, Mark.MISSING}) {
            marks = Marks.tapped(marks, "A4", false);
            assertThat(marks).containsExactly(Map.entry("A4", expected));
        }
        assertThat(Marks.tapped(marks, "A4", false)).isEmpty();
        assertThat(Marks.tapped(Map.of(), "A12", true)).containsExactly(Map.entry("A12", Mark.BENT));
    }

    @ParameterizedTest
    @ValueSource(strings = {"A4", "A4x", "A4t..B5m", "../A4t", "A444t", "a4t"})
    void othersAreRefused(String text) {
        assertThatThrownBy(() -> Marks.read(text)).isInstanceOf(InvalidMember.class);
    }
}
