package ohmoscope.web.config;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Set;
import ohmoscope.core.board.Check;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.AnonymousAuthenticationFilter;
import org.springframework.security.web.authentication.preauth.PreAuthenticatedAuthenticationToken;
import org.springframework.security.web.authentication.session.NullAuthenticatedSessionStrategy;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.firewall.HttpFirewall;
import org.springframework.security.web.firewall.StrictHttpFirewall;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Everybody who reaches the loopback address is the one local technician. Accounts replace {@link LocalSignIn}; rules,
 * CSRF and headers stay.
 */
@Configuration
class SecurityConfig {
    private static final String CONTENT_SECURITY_POLICY = String.join(
            "; ",
            "default-src 'none'",
            "script-src 'self'",
            "style-src 'self'",
            "img-src 'self' data:",
            "font-src 'self'",
            "connect-src 'self'",
            "form-action 'self'",
            "base-uri 'none'",
            "frame-ancestors 'none'");

    @Bean
    SecurityFilterChain security(HttpSecurity http, Settings settings) throws Exception {
        return http.addFilterBefore(new LocalSignIn(), AnonymousAuthenticationFilter.class)
                .addFilterBefore(new LoopbackOnly(settings.phone()), LocalSignIn.class)
                .authorizeHttpRequests(requests -> requests.anyRequest().hasRole(Technician.ROLE))
                .sessionManagement(session -> session.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                // The local sign-in happens on every request; it must not renew the token each time.
                .csrf(csrf -> csrf.csrfTokenRepository(new CookieCsrfTokenRepository())
                        .sessionAuthenticationStrategy(new NullAuthenticatedSessionStrategy()))
                .headers(headers -> headers.contentSecurityPolicy(csp -> csp.policyDirectives(CONTENT_SECURITY_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(ReferrerPolicy.SAME_ORIGIN))
                        .frameOptions(frame -> frame.deny()))
                .build();
    }

    /** What cannot be stored or shown as text is refused before anything looks at it. */
    @Bean
    HttpFirewall printableText() {
        StrictHttpFirewall firewall = new StrictHttpFirewall();
        firewall.setAllowedParameterNames(Check::printable);
        firewall.setAllowedParameterValues(Check::printable);
        return firewall;
    }

    /** Keeps the user details that Spring Boot would otherwise make up, with a password in the log. */
    @Bean
    UserDetailsService technicians() {
        return name -> {
            throw new UsernameNotFoundException("there are no accounts yet");
        };
    }

    /** Signs the local technician in for the request. */
    static final class LocalSignIn extends OncePerRequestFilter {
        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws ServletException, IOException {
            SecurityContext context = SecurityContextHolder.createEmptyContext();
            context.setAuthentication(new PreAuthenticatedAuthenticationToken(
                    Technician.LOCAL, "", AuthorityUtils.createAuthorityList("ROLE_" + Technician.ROLE)));
            SecurityContextHolder.setContext(context);
            chain.doFilter(request, response);
        }

        /** Streamed answers come back on another thread and must be signed in there too. */
        @Override
        protected boolean shouldNotFilterAsyncDispatch() {
            return false;
        }

        @Override
        protected boolean shouldNotFilterErrorDispatch() {
            return false;
        }
    }

    /**
     * A page elsewhere could have its name resolve to this machine; only loopback names are answered. Telephones reach
     * the pages for pictures and for a held key, when that is switched on, and what they are drawn with; their addresses hold a
     * secret.
     */
    static final class LoopbackOnly extends OncePerRequestFilter {
        private static final Set<String> NAMES = Set.of("127.0.0.1", "localhost", "[::1]");
        private final boolean phone;

        LoopbackOnly(boolean phone) {
            this.phone = phone;
        }

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws ServletException, IOException {
            boolean local = NAMES.contains(request.getServerName()) && near(request.getRemoteAddr());
            if (local || phone && forPhones(request.getRequestURI())) {
                chain.doFilter(request, response);
            } else {
                response.sendError(421);
            }
        }

        private static boolean near(String address) {
            return address.startsWith("127.") || address.equals("::1") || address.equals("0:0:0:0:0:0:0:1");
        }

        private static boolean forPhones(String path) {
            return path.startsWith("/phone/")
                    || path.equals("/js/remote.js")
                    || path.startsWith("/css/")
                    || path.startsWith("/fonts/")
                    || path.startsWith("/webjars/bootstrap/");
        }
    }
}
