package ohmoscope.web.config;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.slf4j.MDC;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Puts the request's number and the job's into each line of the log. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class LogLines extends OncePerRequestFilter {
    private static final Pattern JOB = Pattern.compile("^/jobs/([A-Za-z0-9._-]{1,40})(?:/.*)?$");

    private final AtomicLong requests = new AtomicLong();

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        MDC.put("request", "r" + requests.incrementAndGet());
        Matcher job = JOB.matcher(request.getRequestURI());
        if (job.matches()) {
            MDC.put("job", job.group(1));
        }
        try {
            chain.doFilter(request, response);
        } finally {
            MDC.remove("request");
            MDC.remove("job");
        }
    }
}
