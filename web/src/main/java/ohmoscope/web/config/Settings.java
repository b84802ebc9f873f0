package ohmoscope.web.config;

import java.nio.file.Path;
import java.time.Duration;
import ohmoscope.core.board.InvalidMember;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * The application's own settings.
 *
 * @param workFolder where uploads wait while they are read
 * @param dialects where a shop's own instrument dialects are
 * @param demo whether to load the demo jobs into an empty shelf
 * @param phone whether telephones on the local network may bring pictures, and be a live bench's key
 * @param keySilence how long the page of a held key may say nothing before the current is switched off
 */
@ConfigurationProperties("ohmoscope")
public record Settings(Path workFolder, Path dialects, boolean demo, boolean phone, Duration keySilence) {
    private static final Duration SHORTEST = Duration.ofMillis(200);
    private static final Duration LONGEST = Duration.ofSeconds(5);

    public Settings {
        if (keySilence.compareTo(SHORTEST) < 0 || keySilence.compareTo(LONGEST) > 0) {
            throw new InvalidMember("ohmoscope.key-silence", "must be 200 ms to 5 s, was " + keySilence);
        }
    }
}
