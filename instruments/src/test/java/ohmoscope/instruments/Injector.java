package ohmoscope.instruments;

import java.time.Duration;
import ohmoscope.core.instrument.SupplySetting;

/** A process that injects until it is killed: argument 1 the supply's address, 2 what becomes of it. */
public final class Injector {
    private Injector() {}

    public static void main(String[] args) throws Exception {
        GuardedSupply supply = new GuardedSupply(
                Place.of(args[0]),
                OnBench.dialect(Dialect.Kind.SUPPLY),
                System::nanoTime,
                GuardedSupply.SILENCE,
                Duration.ofSeconds(args[1].equals("forgets") ? 1 : 60));
        supply.set(new SupplySetting(1, 1));
        supply.on();
        System.out.println("on");
        for (int i = 0; !args[1].equals("hangs") || i < 3; i++) {
            supply.alive();
            Thread.sleep(50);
        }
        Thread.sleep(60_000);
    }
}
