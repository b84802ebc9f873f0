package ohmoscope.web.config;

import ohmoscope.formats.frames.FrameStack;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.core.Ordered;
import org.springframework.stereotype.Component;

/** How many parts one request may have: as many files as one capture, and the fields beside them. */
@Component
class UploadLimits implements WebServerFactoryCustomizer<TomcatServletWebServerFactory>, Ordered {
    private static final int FIELDS = 50;

    @Override
    public void customize(TomcatServletWebServerFactory factory) {
        factory.addConnectorCustomizers(connector -> {
            connector.setMaxPartCount(FrameStack.MOST_FILES + FIELDS);
            connector.setMaxParameterCount(FrameStack.MOST_FILES + FIELDS);
        });
    }

    /** After the server's own settings, which know less. */
    @Override
    public int getOrder() {
        return Ordered.LOWEST_PRECEDENCE;
    }
}
