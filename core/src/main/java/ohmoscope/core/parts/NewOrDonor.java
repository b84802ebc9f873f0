package ohmoscope.core.parts;

/**
 * Two schools: a new part, or one lifted from a scrap board of the same kind. Which of them suits a part.
 *
 * @param better the school that suits it
 */
public record NewOrDonor(Better better, Why why) {
    /** The schools. */
    public enum Better {
        NEW,
        DONOR,
        EITHER
    }

    /** What speaks for it. */
    public enum Why {
        /** It works only with another, and both move together. */
        PAIR,
        /** Contacts, fuses and switches wear. */
        WEARS,
        /** Nobody knows what to order. */
        NO_TYPE,
        /** It costs little, and one that was lifted may carry a crack that nobody sees. */
        CRACKS,
        /** A donor's has been heated once more; a new one may be of another revision. */
        HEATED
    }

    public static NewOrDonor of(WantedPart wanted) {
        if (wanted.part().pairedWith().isPresent()) {
            return new NewOrDonor(Better.DONOR, Why.PAIR);
        }
        return switch (wanted.part().kind()) {
            case CONNECTOR, FUSE, SWITCH -> new NewOrDonor(Better.NEW, Why.WEARS);
            case CAPACITOR, RESISTOR, INDUCTOR, FERRITE, DIODE, TVS ->
                wanted.value().isEmpty()
                        ? new NewOrDonor(Better.DONOR, Why.NO_TYPE)
                        : new NewOrDonor(Better.NEW, Why.CRACKS);
            default ->
                wanted.value().isEmpty()
                        ? new NewOrDonor(Better.DONOR, Why.NO_TYPE)
                        : new NewOrDonor(Better.EITHER, Why.HEATED);
        };
    }
}
