package ohmoscope.web.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;

import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.web.phone.PhoneLinks;
import ohmoscope.web.phone.PhoneLinks.Purpose;
import ohmoscope.web.store.IntakeStore;
import org.junit.jupiter.api.Test;
import org.springframework.mock.web.MockMultipartFile;

/** A telephone's secret address, its code, and what is taken as a picture. */
class PhoneTest {
    private Instant now = Instant.parse("2026-03-01T10:00:00Z");
    private final PhoneLinks links = new PhoneLinks(new Clock() {
        @Override
        public java.time.ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(java.time.ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    });

    @Test
    void anAddressRunsOut() {
        String token = links.open("K-1", Purpose.PICTURES);
        assertThat(token).hasSize(32);
        assertThat(links.open("K-1", Purpose.PICTURES)).isNotEqualTo(token);
        assertThat(links.job(token, Purpose.PICTURES)).contains("K-1");
        assertThat(links.job("guess", Purpose.PICTURES)).isEmpty();
        // Who may bring pictures may not let current flow.
        assertThat(links.job(token, Purpose.REMOTE)).isEmpty();
        now = now.plus(Duration.ofMinutes(31));
        assertThat(links.job(token, Purpose.PICTURES)).isEmpty();
    }

    @Test
    void theCodeIsOnePathOnWhite() {
        String svg = PhoneLinks.svg("http://192.168.1.20:8080/phone/0123456789abcdef");
        assertThat(svg)
                .startsWith("<svg")
                .endsWith("</svg>")
                .contains("h1v1h-1z")
                .doesNotContain("style");
    }

    @Test
    void onlyPicturesAreKept() throws IOException {
        IntakeStore store = mock(IntakeStore.class);
        Pictures pictures = new Pictures(store);
        byte[] jpeg = {(byte) 0xff, (byte) 0xd8, (byte) 0xff, 0, 1};
        assertThat(pictures.keep(3, List.of(new MockMultipartFile("p", "a.jpg", "text/plain", jpeg)), " port ", "ada"))
                .isEqualTo(1);
        verify(store).addPhoto(eq(3L), eq("port"), any(), eq("ada"));
        IntakeStore other = mock(IntakeStore.class);
        assertThatThrownBy(() -> new Pictures(other)
                        .keep(
                                3,
                                List.of(new MockMultipartFile("p", "a.png", "image/png", "<html>".getBytes())),
                                "",
                                "ada"))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("a.png is no JPEG or PNG picture");
        verify(other, never()).addPhoto(anyLong(), anyString(), any(), anyString());
    }
}
