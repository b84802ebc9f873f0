package ohmoscope.web.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import ohmoscope.bench.demo.DemoJobs;
import ohmoscope.core.board.InvalidMember;
import ohmoscope.core.diagnose.Advice;
import ohmoscope.core.diagnose.Finding;
import ohmoscope.core.diagnose.Precaution;
import ohmoscope.core.diagnose.Schools;
import ohmoscope.core.evidence.GoodReadings.Good;
import ohmoscope.core.evidence.Observation;
import ohmoscope.core.evidence.Observation.Look;
import ohmoscope.core.evidence.Observation.LookFinding;
import ohmoscope.core.evidence.Observation.ReadMode;
import ohmoscope.formats.Bundle;
import ohmoscope.web.Server;
import ohmoscope.web.analysis.JobFile;
import ohmoscope.web.config.EntryChanged;
import ohmoscope.web.entry.Bench;
import ohmoscope.web.imports.BundleImporter;
import ohmoscope.web.judge.Judge;
import ohmoscope.web.store.IntakeStore.Content;
import ohmoscope.web.store.IntakeStore.Intake;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Corrections, receiving, schools and good boards' readings, in the real PostgreSQL. */
@ExtendWith(Server.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class EvidenceStoresTest {
    private Server.Running server;
    private int made;

    @BeforeAll
    void server(Server.Running running) {
        server = running;
    }

    /** A job of its own: a core that reads three ohms, in three entries. */
    private String job() throws IOException {
        Bundle demo = DemoJobs.all().stream()
                .filter(d -> d.id().equals("K-0429"))
                .findFirst()
                .orElseThrow()
                .bundle()
                .get();
        String number = "T-EV-" + ++made;
        Bundle bundle = new Bundle(
                new Bundle.Job(number, "evidence", demo.job().opened()),
                demo.board(),
                demo.railInQuestion(),
                demo.injection(),
                demo.supplyLog(),
                demo.captures(),
                demo.observations(),
                demo.traces());
        server.bean(BundleImporter.class).add(bundle, "test", share -> true);
        return number;
    }

    private JobFile.Stored read(String number) throws IOException {
        return server.bean(JobFile.class).read(number);
    }

    private List<Observation> observations(String number) throws IOException {
        return read(number).bundle().observations();
    }

    @Test
    void aCorrectionTakesTheOldEntrysPlaceAndLeavesItInTheRecord() throws IOException {
        String number = job();
        Bench bench = server.bean(Bench.class);
        bench.enter(number, "VDECK d .002", "ada");
        bench.enter(number, "V3D d .41", "ada");
        bench.enter(number, "fix 4 VDECK d .45", "bo");
        List<Observation> all = observations(number);
        assertThat(all).extracting(Observation::seq).containsExactly(1, 2, 3, 4, 5);
        assertThat(((Observation.Read) all.get(3)).value()).hasValue(0.45);
        assertThat(read(number).entries().get(3).corrected()).isTrue();
        assertThat(read(number).entries().get(3).recordedBy()).isEqualTo("bo");
        long rows = server.bean(JdbcClient.class)
                .sql("select count(*) from evidence where job_id = :job")
                .param("job", read(number).row().id())
                .query(Long.class)
                .single();
        assertThat(rows).isEqualTo(6);
        bench.enter(number, "fix 4 VDECK d .46", "bo");
        assertThat(((Observation.Read) observations(number).get(3)).value()).hasValue(0.46);
    }

    @Test
    void aWithdrawnEntryCountsNoMoreAndItsNumberIsNotUsedAgain() throws IOException {
        String number = job();
        Bench bench = server.bean(Bench.class);
        assertThat(bench.enter(number, "undo", "ada"))
                .as("what came with the bundle is nobody's")
                .isPresent();
        bench.enter(number, "VDECK d .002", "ada");
        bench.enter(number, "V3D d .41", "bo");
        assertThat(bench.enter(number, "undo", "ada")).isEmpty();
        assertThat(observations(number)).extracting(Observation::seq).containsExactly(1, 2, 3, 5);
        assertThat(bench.enter(number, "undo 4", "ada"))
                .as("it is gone already")
                .isPresent();
        bench.enter(number, "look J1 clean", "ada");
        assertThat(observations(number))
                .extracting(Observation::seq)
                .doesNotContain(4)
                .doesNotHaveDuplicates();
    }

    /** Whoever is told that it was kept finds it kept. */
    @Test
    void atOnceOneWinsAndTheOtherIsTold() throws Exception {
        String number = job();
        long id = read(number).row().id();
        EvidenceStore store = server.bean(EvidenceStore.class);
        Bench bench = server.bean(Bench.class);
        ExecutorService two = Executors.newFixedThreadPool(2);
        for (int round = 0; round < 12; round++) {
            OptionalLong seen = OptionalLong.of(store.ofJob(id).get(0).version());
            String finding = List.of("clean", "burnt", "cracked").get(round % 3);
            List<Future<Optional<Bench.Refused>>> both = two.invokeAll(List.of(
                    () -> bench.enter(number, "fix 1 look J1 " + finding, seen, "ada"),
                    () -> bench.enter(number, "fix 1 look J1 loose", seen, "bo")));
            int told = 0;
            for (Future<Optional<Bench.Refused>> each : both) {
                try {
                    assertThat(each.get()).isEmpty();
                } catch (ExecutionException refused) {
                    assertThat(refused).hasCauseInstanceOf(EntryChanged.class);
                    told++;
                }
            }
            assertThat(told).isEqualTo(1);
        }
        two.shutdown();
    }

    @Test
    void oneOfTwoCorrectionsOfTheSameEntryWins() throws IOException {
        String number = job();
        long id = read(number).row().id();
        EvidenceStore store = server.bean(EvidenceStore.class);
        Bench bench = server.bean(Bench.class);
        long seen = store.ofJob(id).get(0).version();
        bench.enter(number, "fix 1 look J1 clean", OptionalLong.of(seen), "ada");
        assertThatThrownBy(() -> bench.enter(number, "fix 1 look J1 burnt", OptionalLong.of(seen), "bo"))
                .isInstanceOfSatisfying(EntryChanged.class, changed -> {
                    assertThat(changed.now()).contains(new Look(1, "J1", LookFinding.CLEAN));
                    assertThat(changed.wanted()).contains(new Look(1, "J1", LookFinding.BURNT));
                });
        assertThatThrownBy(() -> server.bean(Transactions.class).run(() -> {
                    store.withdraw(id, 1, seen, "bo");
                    return id;
                }))
                .isInstanceOf(EntryChanged.class);
        JdbcClient jdbc = server.bean(JdbcClient.class);
        long first = jdbc.sql("select id from evidence where job_id = :job and seq = 1")
                .param("job", id)
                .query(Long.class)
                .single();
        assertThatThrownBy(
                        () -> jdbc.sql("""
                        insert into evidence (job_id, seq, place, kind, document, recorded_by, supersedes)
                        values (:job, 99, 1, 'withdrawn', '', 'bo', :old)""").param("job", id).param("old", first).update())
                .isInstanceOf(DataAccessException.class);
        assertThatThrownBy(() -> jdbc.sql("""
                        insert into evidence (job_id, seq, place, kind, document, recorded_by)
                        values (:job, 98, 1, 'withdrawn', '', 'bo')""").param("job", id).update()).isInstanceOf(DataAccessException.class);
    }

    @Test
    void aGoodBoardsReadingIsKnownToEveryJobOfItsKind() throws IOException {
        String number = job();
        String other = job();
        assertThat(server.bean(Bench.class).enter(number, "good EN5 d .61", "ada"))
                .isEmpty();
        assertThat(observations(number)).as("no entry of this job").hasSize(3);
        assertThat(server.bean(GoodStore.class).readings(read(other).row().boardId()))
                .contains(new Good("EN5", ReadMode.DIODE, 0.61));
        assertThat(read(other).board().net("EN5").orElseThrow().expect()).isPresent();
        assertThat(read(other).bundle().board().net("EN5").orElseThrow().expect())
                .as("what is exported is the board as it came")
                .isEmpty();
    }

    @Test
    void adviceIsKeptUntilTheEvidenceChanges() throws IOException {
        String number = job();
        Judge judge = server.bean(Judge.class);
        Advice first = judge.advise(read(number), Schools.DEFAULT);
        assertThat(first.findings()).extracting(Finding::code).contains(Finding.Code.READING_BY_DESIGN);
        assertThat(judge.advise(read(number), Schools.DEFAULT)).isSameAs(first);
        server.bean(Bench.class).enter(number, "VDECK d .002", "ada");
        Advice second = judge.advise(read(number), Schools.DEFAULT);
        assertThat(second.findings()).extracting(Finding::code).contains(Finding.Code.RAIL_SHORTED);
    }

    @Test
    void howItCameInIsKeptWithItsPictures() throws IOException {
        String number = job();
        long id = read(number).row().id();
        IntakeStore intakes = server.bean(IntakeStore.class);
        assertThat(intakes.latest(id)).isEmpty();
        intakes.add(id, new Intake("fell in a river", "", "wet marks", List.of("liquid")), "ada");
        intakes.add(id, new Intake("fell in a river", "a friend opened it", "wet marks", List.of("liquid")), "ada");
        assertThat(intakes.latest(id))
                .hasValueSatisfying(i -> assertThat(i.earlierWork()).contains("friend"));
        assertThat(read(number).account()).contains("river").contains("friend");
        assertThat(read(number).hazards()).contains(Precaution.Hazard.LIQUID);
        assertThat(intakes.addItem(id, "drive", true, "ada")).isTrue();
        assertThat(intakes.addItem(id, "drive", false, "ada")).isFalse();
        intakes.check(id, "drive", "bo");
        assertThat(intakes.items(id))
                .singleElement()
                .satisfies(i -> assertThat(i.checked()).isPresent());
        intakes.addPhoto(id, "port", new Content("image/png", new byte[] {1, 2, 3}), "ada");
        long photo = intakes.photos(id).get(0).id();
        assertThat(intakes.photo(id, photo))
                .hasValueSatisfying(c -> assertThat(c.bytes()).containsExactly(1, 2, 3));
        assertThat(intakes.photo(id + 1, photo)).as("of another job").isEmpty();
        assertThatThrownBy(() -> intakes.add(id, new Intake("", "", "", List.of("dragons")), "ada"))
                .isInstanceOf(DataAccessException.class);
        assertThatThrownBy(() ->
                        server.bean(JdbcClient.class).sql("delete from photo").update())
                .isInstanceOf(DataAccessException.class)
                .hasMessageContaining("append-only");
    }

    @Test
    void schoolsAreEachTechniciansOwn() {
        SchoolStore schools = server.bean(SchoolStore.class);
        assertThat(schools.of("cy")).isEqualTo(Schools.DEFAULT);
        schools.set("cy", "injection", "rail-voltage");
        schools.set("cy", "meter", "ohms");
        schools.set("cy", "meter", "diode");
        assertThat(schools.of("cy").injection()).isEqualTo(Schools.Injection.RAIL_VOLTAGE);
        assertThat(schools.of("cy").meter()).isEqualTo(Schools.Meter.DIODE);
        assertThat(schools.of("di")).isEqualTo(Schools.DEFAULT);
        assertThatThrownBy(() -> schools.set("cy", "hammer", "big")).isInstanceOf(InvalidMember.class);
        assertThatThrownBy(() -> schools.set("cy", "meter", "tongue")).isInstanceOf(InvalidMember.class);
    }

    @Test
    void leadsAndSupplyAreEachTechniciansOwn() {
        MeansStore means = server.bean(MeansStore.class);
        assertThat(means.of("ed")).isEmpty();
        means.keep("ed", new MeansStore.Kept(0.02, 6, 30, 5));
        means.keep("ed", new MeansStore.Kept(0.04, 6, 15, 3));
        assertThat(means.of("ed")).contains(new MeansStore.Kept(0.04, 6, 15, 3));
        assertThat(means.of("flo")).isEmpty();
        assertThatThrownBy(() -> new MeansStore.Kept(0, 6, 15, 3))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("lead_ohms");
        assertThatThrownBy(() -> new MeansStore.Kept(0.02, 6, 1500, 3))
                .isInstanceOf(InvalidMember.class)
                .hasMessageContaining("most_v");
        JdbcClient jdbc = server.bean(JdbcClient.class);
        assertThatThrownBy(() -> jdbc.sql("update injection_means set most_a = -1 where technician = 'ed'")
                        .update())
                .isInstanceOf(DataAccessException.class);
    }
}
