package ohmoscope.core.board;

/** What turns a pass part on. */
public record Gate(String net, OnWhen onWhen) {
    /** The gate level at which the part conducts. */
    public enum OnWhen {
        LOW,
        HIGH
    }

    public Gate {
        Check.text("net", net);
    }
}
