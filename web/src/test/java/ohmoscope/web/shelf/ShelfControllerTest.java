package ohmoscope.web.shelf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.ShelfRow;
import org.junit.jupiter.api.Test;
import org.springframework.test.web.servlet.assertj.MockMvcTester;

/** The shelf's controller alone. */
class ShelfControllerTest {
    private final JobStore jobs = mock(JobStore.class);
    private final MockMvcTester mvc = MockMvcTester.of(
            new ShelfController(jobs, Clock.fixed(Instant.parse("2026-02-01T00:00:00Z"), ZoneOffset.UTC)));

    private void stored(long count, ShelfRow... rows) {
        when(jobs.count(eq(""))).thenReturn(count);
        when(jobs.page(eq(""), anyInt(), anyLong())).thenReturn(List.of(rows));
    }

    private static ShelfRow row(String step, Optional<String> verdict, Optional<String> lead, OptionalDouble p) {
        return new ShelfRow(
                1,
                "K-1",
                "words",
                "Logger",
                "B",
                "VBAT",
                Instant.parse("2026-02-01T09:30:00Z"),
                step,
                verdict,
                lead,
                p);
    }

    @Test
    void tellsTheLeadingSuspect() {
        stored(1, row("NAME_IT", Optional.of("PART"), Optional.of("C4"), OptionalDouble.of(0.94)));
        assertThat(mvc.get().uri("/"))
                .hasViewName("shelf")
                .model()
                .extractingByKey("lines")
                .asInstanceOf(org.assertj.core.api.InstanceOfAssertFactories.list(ShelfController.Line.class))
                .singleElement()
                .satisfies(l -> {
                    assertThat(l.lead()).isEqualTo("C4");
                    assertThat(l.leadWords()).isEqualTo("94 %");
                    assertThat(l.stepNumber()).isEqualTo(8);
                    assertThat(l.opened()).isEqualTo("1 Feb, 09:30");
                });
    }

    @Test
    void saysWhenNothingIsSettled() {
        stored(
                2,
                row("NAME_IT", Optional.of("AREA"), Optional.of("C4"), OptionalDouble.of(0.5)),
                row("IMAGE", Optional.of("NONE"), Optional.empty(), OptionalDouble.empty()));
        assertThat(mvc.get().uri("/"))
                .model()
                .extractingByKey("lines")
                .asInstanceOf(org.assertj.core.api.InstanceOfAssertFactories.list(ShelfController.Line.class))
                .extracting(ShelfController.Line::leadWords)
                .containsExactly("50 %, not settled", "nothing to see yet");
    }

    @Test
    void pagesPastTheEndAreTheLast() {
        stored(90);
        assertThat(mvc.get().uri("/?page=99")).model().containsEntry("page", 3).containsEntry("pages", 3);
        verify(jobs).page("", 40, 80);
    }
}
