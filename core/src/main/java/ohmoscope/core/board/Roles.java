package ohmoscope.core.board;

import java.util.List;
import java.util.function.Function;

/** Works a part's role out from its kind and its nets. */
final class Roles {
    private Roles() {}

    static Role implied(Function<String, NetKind> kindOf, Part part) {
        List<NetKind> kinds = part.pins().stream()
                .map(pin -> kindOf.apply(pin.net()))
                .distinct()
                .toList();
        boolean ground = kinds.contains(NetKind.GROUND);
        boolean power = kinds.contains(NetKind.POWER);
        boolean twoPowerNets = part.pins().stream()
                        .map(Pin::net)
                        .filter(n -> kindOf.apply(n) == NetKind.POWER)
                        .distinct()
                        .count()
                >= 2;
        return switch (part.kind()) {
            case CAPACITOR -> ground && power ? Role.BYPASS : Role.OTHER;
            case FUSE -> Role.SERIES;
            case RESISTOR, INDUCTOR, FERRITE -> twoPowerNets ? Role.SERIES : Role.OTHER;
            case MOSFET -> twoPowerNets ? Role.PASS : Role.OTHER;
            case TVS -> Role.CLAMP;
            case DIODE -> ground && power ? Role.CLAMP : Role.OTHER;
            case CONNECTOR -> Role.CONNECTOR;
            case IC -> part.supplies().isEmpty() ? Role.LOAD : Role.REGULATOR;
            default -> Role.OTHER;
        };
    }
}
