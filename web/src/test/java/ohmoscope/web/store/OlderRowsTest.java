package ohmoscope.web.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.UUID;
import ohmoscope.core.board.Board;
import ohmoscope.core.board.NetKind;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.job.Hunt;
import ohmoscope.formats.BoardJson;
import ohmoscope.formats.layout.GenericBoards;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Rows as the first version wrote them, read by this one. */
class OlderRowsTest {
    @Test
    void aJobOfTheFirstVersionIsReadAsItWas() throws Exception {
        String server = System.getenv("OHMOSCOPE_TEST_DB");
        String user = System.getenv("OHMOSCOPE_TEST_DB_USER");
        String password = System.getenv("OHMOSCOPE_TEST_DB_PASSWORD");
        String name = "old_" + UUID.randomUUID().toString().replace("-", "");
        try (Connection connection = DriverManager.getConnection(server, user, password);
                Statement statement = connection.createStatement()) {
            statement.execute("create database " + name);
        }
        DriverManagerDataSource source =
                new DriverManagerDataSource(server.replaceFirst("/[^/]*$", "/" + name), user, password);
        Flyway.configure().dataSource(source).target("1").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        Board board = GenericBoards.named("telephone").board();
        jdbc.sql("insert into board (digest, name, revision, document) values (repeat('a', 64), 'old', 'B', :document)")
                .param("document", new String(BoardJson.write(board), StandardCharsets.UTF_8))
                .update();
        String rail = board.nets().stream()
                .filter(n -> n.kind() == NetKind.POWER)
                .findFirst()
                .orElseThrow()
                .name();
        jdbc.sql("""
                insert into job (number, title, board_id, rail, opened_at, search_text)
                values ('OLD-1', 'dead', 1, :rail, now(), 'old-1 dead')""").param("rail", rail).update();
        jdbc.sql("""
                insert into evidence (job_id, seq, kind, document, recorded_by) values
                (1, 1, 'read', '{"seq":1,"kind":"read","mode":"diode","net":"' || :rail || '","value":0.003}', 'ada'),
                (1, 2, 'run', '{"seq":2,"kind":"run","finding":"dead"}', 'ada')""").param("rail", rail).update();
        jdbc.sql(
                        "insert into injection (job_id, document, supply_log) values (1, '', 't_s,volts,amps,output\n0,0,0,0\n')")
                .update();
        jdbc.sql("insert into analysis (job_id, state, version) values (1, 'failed', '0')")
                .update();
        jdbc.sql("insert into job_state (job_id, step, lead_ref, lead_probability) values (1, 'SURVEY', 'C3', 0.4)")
                .update();

        Flyway.configure().dataSource(source).load().migrate();

        JobStore jobs = new JobStore(jdbc);
        JobRow row = jobs.named("OLD-1");
        assertThat(row.statedRail()).contains(rail);
        assertThat(row.device()).isEmpty();
        assertThat(jobs.hunts(row.id())).containsExactly(new Hunt(1, row.statedRail()));
        assertThat(new BoardStore(jdbc).board(row.boardId())).isEqualTo(board);
        EvidenceStore evidence = new EvidenceStore(jdbc);
        assertThat(evidence.ofJob(row.id()))
                .extracting(EvidenceStore.Entry::observation)
                .hasOnlyElementsOfType(Observation.class)
                .hasSize(2);
        assertThat(evidence.injected(row.id(), 1).log()).isPresent();
        assertThat(new AnalysisStore(jdbc).latest(row.id()).orElseThrow().hunt())
                .isEqualTo(1);
        assertThat(jobs.page("", 10, 0)).singleElement().satisfies(line -> {
            assertThat(line.rail()).isEqualTo(rail);
            assertThat(line.lead().orElseThrow().by()).isEqualTo(JobStore.Lead.By.FRAMES);
        });
        assertThat(new PhotoStore(jdbc).sidesOfJob("OLD-1")).isEmpty();
    }
}
