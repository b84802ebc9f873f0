package ohmoscope.web.config;

import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.model;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import java.io.IOException;
import org.hamcrest.Matchers;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.stereotype.Controller;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.setup.MockMvcBuilders;
import org.springframework.web.bind.annotation.GetMapping;

class PageAdviceTest {
    /** Goes wrong in every way there is. */
    @Controller
    static class Failing {
        @GetMapping("/heap")
        String heap() {
            throw new OutOfMemoryError("Java heap space");
        }

        @GetMapping("/disk")
        String disk() throws IOException {
            throw new IOException("/srv/secret/place is gone");
        }

        @GetMapping("/database")
        String database() {
            throw new DataAccessResourceFailureException("connection refused");
        }

        @GetMapping("/fine")
        String fine() {
            return "fine";
        }
    }

    private final MockMvc pages = MockMvcBuilders.standaloneSetup(new Failing())
            .setControllerAdvice(new PageAdvice())
            .setSingleView((model, request, response) -> {})
            .build();

    @Test
    void aHeapThatRunsOutEndsOneRequestAndNotTheNext() throws Exception {
        pages.perform(get("/heap"))
                .andExpect(status().isServiceUnavailable())
                .andExpect(model().attribute("sentence", Matchers.containsString("nothing was lost")));
        pages.perform(get("/fine")).andExpect(status().isOk());
    }

    @Test
    void noPageShowsWhereThingsLie() throws Exception {
        pages.perform(get("/disk"))
                .andExpect(status().isInternalServerError())
                .andExpect(model().attribute("sentence", Matchers.not(Matchers.containsString("secret"))));
    }

    @Test
    void aDatabaseThatIsAwayIsSaidAndAskedForAgain() throws Exception {
        pages.perform(get("/database")).andExpect(status().isServiceUnavailable());
    }
}
