package ohmoscope.web.config;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * The application's own settings.
 *
 * @param workFolder where uploads wait while they are read
 * @param demo whether to load the demo jobs into an empty shelf
 */
@ConfigurationProperties("ohmoscope")
public record Settings(Path workFolder, boolean demo) {}
