package ohmoscope.web.config;

import java.security.Principal;

/** Who is at the bench. One local technician for now; accounts will put their name here. */
public final class Technician {
    static final String LOCAL = "bench";
    static final String ROLE = "TECHNICIAN";

    private Technician() {}

    /** The name under which evidence is recorded. */
    public static String name(Principal principal) {
        return principal.getName();
    }
}
