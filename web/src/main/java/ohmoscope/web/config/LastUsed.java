package ohmoscope.web.config;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;

/** Maps that keep what was last used and forget the rest. */
public final class LastUsed {
    private LastUsed() {}

    /** @param kept how many entries at most; every access is synchronized */
    public static <K, V> Map<K, V> map(int kept) {
        return Collections.synchronizedMap(new LinkedHashMap<>(kept, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<K, V> eldest) {
                return size() > kept;
            }
        });
    }
}
