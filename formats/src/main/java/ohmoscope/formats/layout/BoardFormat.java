package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import ohmoscope.core.layout.Draft;
import ohmoscope.formats.BundleException;

/** One open format that a board's layout, netlist, places or parts list may come in. Found by {@code ServiceLoader}. */
public interface BoardFormat {
    /** In a sentence, with its article. */
    String name();

    /**
     * @param file its name
     * @param head its first bytes as text, up to a few thousand
     */
    boolean recognises(String file, String head);

    /**
     * Reads the stream once, front to back; memory grows with parts and pads alone.
     *
     * @throws BundleException naming the file, the line and what was expected
     */
    Draft read(InputStream in, String file) throws IOException;
}
