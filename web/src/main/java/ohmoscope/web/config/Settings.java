package ohmoscope.web.config;

import java.nio.file.Path;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * The application's own settings.
 *
 * @param workFolder where uploads wait while they are read
 * @param dialects where a shop's own instrument dialects are
 * @param demo whether to load the demo jobs into an empty shelf
 * @param phone whether telephones on the local network may bring pictures
 */
@ConfigurationProperties("ohmoscope")
public record Settings(Path workFolder, Path dialects, boolean demo, boolean phone) {}
