package ohmoscope.web.config;

import ohmoscope.formats.frames.FrameStack;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** How many parts one request may have: as many files as one capture, and the fields beside them. */
@Configuration
class UploadLimits {
    private static final int FIELDS = 50;

    @Bean
    WebServerFactoryCustomizer<TomcatServletWebServerFactory> parts() {
        return factory ->
                factory.addConnectorCustomizers(connector -> connector.setMaxPartCount(FrameStack.MOST_FILES + FIELDS));
    }
}
