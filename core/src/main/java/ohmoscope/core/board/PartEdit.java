package ohmoscope.core.board;

import java.util.List;
import java.util.Optional;

/** A part that is like another but for what is said here; the other stays as it is. */
public final class PartEdit {
    private final Part like;
    private String ref;
    private PartKind kind;
    private Optional<Role> role;
    private String value;
    private String packageName;
    private Side side;
    private double xMm;
    private double yMm;
    private double rotDeg;
    private double wMm;
    private double hMm;
    private List<Pin> pins;
    private Optional<Storey> storey;
    private List<Supply> supplies;
    private Optional<PortExpectation> expects;
    private Optional<Gate> gate;

    private PartEdit(Part like) {
        this.like = like;
        ref = like.ref();
        kind = like.kind();
        role = like.statedRole();
        value = like.value();
        packageName = like.packageName();
        side = like.side();
        xMm = like.xMm();
        yMm = like.yMm();
        rotDeg = like.rotDeg();
        wMm = like.wMm();
        hMm = like.hMm();
        pins = like.pins();
        storey = like.storey();
        supplies = like.supplies();
        expects = like.expects();
        gate = like.gate();
    }

    public static PartEdit of(Part like) {
        return new PartEdit(like);
    }

    public PartEdit called(String other) {
        ref = other;
        return this;
    }

    public PartEdit kind(PartKind other) {
        kind = other;
        return this;
    }

    public PartEdit role(Optional<Role> other) {
        role = other;
        return this;
    }

    public PartEdit value(String other) {
        value = other;
        return this;
    }

    public PartEdit packageName(String other) {
        packageName = other;
        return this;
    }

    /** To another place; the pins stay where they are unless {@link #pins} says theirs. */
    public PartEdit at(Side otherSide, double toXMm, double toYMm, double toRotDeg) {
        side = otherSide;
        xMm = toXMm;
        yMm = toYMm;
        rotDeg = toRotDeg;
        return this;
    }

    /** Body before rotation. */
    public PartEdit body(double otherWMm, double otherHMm) {
        wMm = otherWMm;
        hMm = otherHMm;
        return this;
    }

    public PartEdit pins(List<Pin> others) {
        pins = others;
        return this;
    }

    public PartEdit storey(Optional<Storey> other) {
        storey = other;
        return this;
    }

    public PartEdit supplies(List<Supply> others) {
        supplies = others;
        return this;
    }

    public PartEdit expects(Optional<PortExpectation> other) {
        expects = other;
        return this;
    }

    public PartEdit gate(Optional<Gate> other) {
        gate = other;
        return this;
    }

    /** @throws InvalidMember for what no part can be */
    public Part done() {
        return new Part(
                ref,
                kind,
                role,
                value,
                like.voltsRated(),
                packageName,
                side,
                xMm,
                yMm,
                rotDeg,
                wMm,
                hMm,
                like.heightMm(),
                pins,
                like.resistanceOhms(),
                like.sensitive(),
                supplies,
                gate,
                expects,
                like.pairedWith(),
                storey);
    }
}
