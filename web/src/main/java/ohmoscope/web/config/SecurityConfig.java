package ohmoscope.web.config;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Set;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.authentication.ProviderManager;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsByNameServiceWrapper;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.provisioning.InMemoryUserDetailsManager;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.preauth.AbstractPreAuthenticatedProcessingFilter;
import org.springframework.security.web.authentication.preauth.PreAuthenticatedAuthenticationProvider;
import org.springframework.security.web.authentication.preauth.PreAuthenticatedAuthenticationToken;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
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
    UserDetailsService technicians() {
        return new InMemoryUserDetailsManager(User.withUsername(Technician.LOCAL)
                .password("{noop}")
                .roles(Technician.ROLE)
                .build());
    }

    @Bean
    SecurityFilterChain security(HttpSecurity http, UserDetailsService technicians) throws Exception {
        PreAuthenticatedAuthenticationProvider provider = new PreAuthenticatedAuthenticationProvider();
        provider.setPreAuthenticatedUserDetailsService(
                new UserDetailsByNameServiceWrapper<PreAuthenticatedAuthenticationToken>(technicians));
        LocalSignIn signIn = new LocalSignIn();
        signIn.setAuthenticationManager(new ProviderManager(provider));
        CookieCsrfTokenRepository tokens = new CookieCsrfTokenRepository();
        return http.addFilter(signIn)
                .addFilterBefore(new LoopbackOnly(), LocalSignIn.class)
                .authorizeHttpRequests(requests -> requests.anyRequest().hasRole(Technician.ROLE))
                .sessionManagement(session -> session.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                .csrf(csrf -> csrf.csrfTokenRepository(tokens))
                .headers(headers -> headers.contentSecurityPolicy(csp -> csp.policyDirectives(CONTENT_SECURITY_POLICY))
                        .referrerPolicy(referrer -> referrer.policy(ReferrerPolicy.SAME_ORIGIN))
                        .frameOptions(frame -> frame.deny()))
                .build();
    }

    /** Signs the local technician in. */
    static final class LocalSignIn extends AbstractPreAuthenticatedProcessingFilter {
        @Override
        protected Object getPreAuthenticatedPrincipal(HttpServletRequest request) {
            return Technician.LOCAL;
        }

        @Override
        protected Object getPreAuthenticatedCredentials(HttpServletRequest request) {
            return "";
        }
    }

    /** A page elsewhere could have its name resolve to this machine; only loopback names are answered. */
    static final class LoopbackOnly extends OncePerRequestFilter {
        private static final Set<String> NAMES = Set.of("127.0.0.1", "localhost", "[::1]");

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws ServletException, IOException {
            if (NAMES.contains(request.getServerName())) {
                chain.doFilter(request, response);
            } else {
                response.sendError(421);
            }
        }
    }
}
