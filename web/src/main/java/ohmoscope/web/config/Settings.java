package ohmoscope.web.config;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * The application's own settings.
 *
 * @param workFolder where uploads wait while they are read
 * @param demo whether to load the demo jobs into an empty shelf
 * @param phone whether telephones on the local network may bring pictures
 */
@ConfigurationProperties("ohmoscope")
public record Settings(Path workFolder, boolean demo, boolean phone) {}
