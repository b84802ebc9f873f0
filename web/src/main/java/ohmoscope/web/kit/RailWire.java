package ohmoscope.web.kit;

import java.util.Locale;

/** What feeds a rail in a drawn power tree. @param broken whether voltage is on one side only */
public record RailWire(String path, String part, String kind, String words, int labelX, int labelY, boolean broken) {
    public static RailWire of(TreeDrawing.Wire at, boolean broken) {
        return new RailWire(
                at.path(),
                at.feed().part().ref(),
                at.feed().kind().name().toLowerCase(Locale.ROOT),
                TreeDrawing.words(at.feed()),
                at.labelX(),
                at.labelY(),
                broken);
    }
}
