package ohmoscope.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;

/** A stand-in started by its command, and asked by the other. */
class InstrumentCommandTest {
    private static final Pattern PORTS = Pattern.compile("supply (\\d+), meter (\\d+), camera (\\d+)");

    private record Ran(int exit, String out, String err) {}

    private static Ran run(String... args) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        CommandLine line = Main.line().setOut(new PrintWriter(out)).setErr(new PrintWriter(err));
        int exit = line.execute(args);
        return new Ran(exit, out.toString(), err.toString());
    }

    @Test
    @Timeout(60)
    void aStandInAnswersAndSaysWhatItSpeaks(@TempDir Path temp) throws Exception {
        StringWriter err = new StringWriter();
        AtomicInteger exit = new AtomicInteger(-1);
        Path log = temp.resolve("bench.log");
        Thread standIn = new Thread(() -> exit.set(Main.line()
                .setErr(new PrintWriter(err))
                .execute(
                        "standin",
                        "bench",
                        "--board",
                        "beck",
                        "--fault",
                        "C68=0.08",
                        "--supply-port",
                        "0",
                        "--meter-port",
                        "0",
                        "--camera-port",
                        "0",
                        "--inline-port",
                        "0",
                        "--hands-port",
                        "0",
                        "--log",
                        log.toString())));
        standIn.start();
        Matcher ports = PORTS.matcher(err.toString());
        while (!ports.find()) {
            Thread.sleep(20);
            ports = PORTS.matcher(err.toString());
        }
        assertThat(err.toString()).contains("leads on V3A");
        Ran supply = run("instrument", "127.0.0.1:" + ports.group(1));
        assertThat(supply.exit()).isZero();
        assertThat(supply.out()).contains("Stand-in supply", "speaks: supply, the usual SCPI words");
        Ran meter = run("instrument", "127.0.0.1:" + ports.group(2), "--kind", "meter");
        assertThat(meter.out()).contains("speaks: meter");
        Ran wrong = run("instrument", "127.0.0.1:" + ports.group(2), "--patience", "300");
        assertThat(wrong.exit()).isEqualTo(Main.UNUSABLE);
        assertThat(wrong.out()).contains("speaks none of the dialects");
        standIn.interrupt();
        standIn.join();
        assertThat(exit).hasValue(0);
        assertThat(Files.readString(log)).contains("supply < *IDN?", "meter < READ?");
        assertThat(Files.readString(log)).doesNotContain("OUTP ON");
    }

    @Test
    void nothingIsSentBeyondThisMachineUnasked() {
        Ran far = run("instrument", "192.0.2.9:5025");
        assertThat(far.exit()).isEqualTo(Main.UNUSABLE);
        assertThat(far.err()).contains("beyond this machine");
        Ran nobody = run("instrument", "127.0.0.1:9", "--patience", "300");
        assertThat(nobody.exit()).isEqualTo(Main.UNUSABLE);
        assertThat(nobody.err()).contains("127.0.0.1:9 is not there");
        assertThat(run("instrument", "nowhere").err()).contains("must be host:port");
    }
}
