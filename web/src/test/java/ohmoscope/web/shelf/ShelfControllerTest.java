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
import ohmoscope.web.store.JobStore;
import ohmoscope.web.store.JobStore.Lead;
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

    private static ShelfRow row(String step, Optional<String> verdict, Optional<Lead> lead) {
        return row("K-1", step, verdict, lead);
    }

    private static ShelfRow row(String number, String step, Optional<String> verdict, Optional<Lead> lead) {
        return new ShelfRow(
                1,
                number,
                "words",
                "Logger",
                "B",
                "VBAT",
                true,
                Instant.parse("2026-02-01T09:30:00Z"),
                step,
                Optional.of("Lift C4."),
                verdict,
                lead);
    }

    @Test
    void tellsTheLeadingSuspect() {
        stored(1, row("NAME_IT", Optional.of("PART"), Optional.of(new Lead("C4", 0.94, Lead.By.FRAMES))));
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
                    assertThat(l.next()).isEqualTo("Lift C4.");
                    assertThat(l.usable()).isTrue();
                    assertThat(l.opened()).isEqualTo("1 Feb, 09:30");
                });
    }

    @Test
    void saysWhenNothingIsSettled() {
        stored(
                2,
                row("NAME_IT", Optional.of("AREA"), Optional.of(new Lead("C4", 0.5, Lead.By.FRAMES))),
                row("SURVEY", Optional.empty(), Optional.of(new Lead("R2", 0.97, Lead.By.METER))),
                row("HAND_BACK", Optional.of("PART"), Optional.of(new Lead("C4", 1, Lead.By.PROOF))),
                row("IMAGE", Optional.of("NONE"), Optional.empty()));
        assertThat(mvc.get().uri("/"))
                .model()
                .extractingByKey("lines")
                .asInstanceOf(org.assertj.core.api.InstanceOfAssertFactories.list(ShelfController.Line.class))
                .extracting(ShelfController.Line::leadWords)
                .containsExactly("50 %, not settled", "97 % by meter", "mended", "nothing stands out yet");
    }

    /** A job of an earlier version, whose number leads nowhere. */
    @Test
    void aNumberThatCannotStandInAnAddressIsGivenAnother() {
        stored(1, row("../../x", "SURVEY", Optional.empty(), Optional.empty()));
        assertThat(mvc.get().uri("/"))
                .model()
                .extractingByKey("lines")
                .asInstanceOf(org.assertj.core.api.InstanceOfAssertFactories.list(ShelfController.Line.class))
                .singleElement()
                .satisfies(l -> assertThat(l.usable()).isFalse());
        when(jobs.rename(1, "X-1")).thenReturn(true);
        assertThat(mvc.post().uri("/shelf/1/number").param("number", " X-1 ")).hasRedirectedUrl("/jobs/X-1");
        assertThat(mvc.post().uri("/shelf/1/number").param("number", "a/b"))
                .failure()
                .hasMessageContaining("letters, digits");
        assertThat(mvc.post().uri("/shelf/1/number").param("number", "T-2"))
                .failure()
                .hasMessageContaining("another job has");
    }

    @Test
    void pagesPastTheEndAreTheLast() {
        stored(90);
        assertThat(mvc.get().uri("/?page=99")).model().containsEntry("page", 3).containsEntry("pages", 3);
        verify(jobs).page("", 40, 80);
    }
}
