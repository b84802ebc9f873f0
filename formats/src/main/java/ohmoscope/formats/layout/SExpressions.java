package ohmoscope.formats.layout;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import ohmoscope.formats.BundleException;

/**
 * Lists in round brackets, read front to back: a list's first word is its head. What nobody asks for is passed over
 * without being kept.
 */
final class SExpressions {
    private static final int DEEPEST = 100;
    private static final int LONGEST_WORD = 1 << 20;
    /** Of one list that is kept. */
    private static final int MOST_ITEMS = 2_000_000;

    private final Reader in;
    private final String file;
    private final char[] buffer = new char[1 << 16];
    private int at;
    private int filled;
    private int line = 1;
    private int kept;

    SExpressions(InputStream in, String file) {
        this.in = new InputStreamReader(in, StandardCharsets.UTF_8);
        this.file = file;
    }

    /** A list: its words and its lists in order. */
    record Node(String head, List<String> words, List<Node> lists, int line) {
        Optional<Node> list(String name) {
            return lists.stream().filter(n -> n.head.equals(name)).findFirst();
        }

        Stream<Node> lists(String name) {
            return lists.stream().filter(n -> n.head.equals(name));
        }

        Optional<String> word(int index) {
            return index < words.size() ? Optional.of(words.get(index)) : Optional.empty();
        }

        /** The first word of a list in it. */
        Optional<String> text(String name) {
            return list(name).flatMap(n -> n.word(0));
        }

        OptionalDouble number(int index) {
            try {
                return index < words.size()
                        ? OptionalDouble.of(Double.parseDouble(words.get(index)))
                        : OptionalDouble.empty();
            } catch (NumberFormatException noNumber) {
                return OptionalDouble.empty();
            }
        }
    }

    BundleException fault(int where, String what) {
        return new BundleException(file, "line " + where, what);
    }

    /** @return the head of the list that opens here */
    String open() throws IOException {
        int c = skipSpace();
        if (c != '(') {
            throw fault(line, "a list must open with ( here");
        }
        read();
        skipSpace();
        return word();
    }

    /** Whether another list or word follows in the list that is open; its end is passed where none does. */
    boolean more() throws IOException {
        int c = skipSpace();
        if (c == ')') {
            read();
            return false;
        }
        if (c < 0) {
            throw fault(line, "the file ends where a list is open: it is cut short");
        }
        return true;
    }

    boolean listFollows() throws IOException {
        return skipSpace() == '(';
    }

    /** The rest of the list whose head was read, kept. */
    Node rest(String head) throws IOException {
        kept = 0;
        return rest(head, 0);
    }

    private Node rest(String head, int depth) throws IOException {
        if (depth > DEEPEST) {
            throw fault(line, "lists stand more than " + DEEPEST + " deep in one another");
        }
        int begins = line;
        List<String> words = new ArrayList<>(4);
        List<Node> lists = new ArrayList<>(4);
        while (more()) {
            if (++kept > MOST_ITEMS) {
                throw fault(begins, "the list " + head + " has more than " + MOST_ITEMS + " words");
            }
            if (listFollows()) {
                lists.add(rest(open(), depth + 1));
            } else {
                words.add(word());
            }
        }
        return new Node(head, words, lists, begins);
    }

    /** Passes over the rest of the list whose head was read. */
    void skip() throws IOException {
        int depth = 1;
        while (depth > 0) {
            int c = read();
            if (c < 0) {
                throw fault(line, "the file ends where a list is open: it is cut short");
            }
            if (c == '(') {
                depth++;
            } else if (c == ')') {
                depth--;
            } else if (c == '"') {
                skipQuoted();
            }
        }
    }

    private void skipQuoted() throws IOException {
        int begins = line;
        for (int c = read(); c != '"'; c = read()) {
            if (c == '\\') {
                c = read();
            }
            if (c < 0) {
                throw fault(begins, "a quotation mark is not closed");
            }
        }
    }

    String word() throws IOException {
        int c = skipSpace();
        StringBuilder text = new StringBuilder();
        if (c == '"') {
            int begins = line;
            read();
            for (int q = read(); q != '"'; q = read()) {
                if (q == '\\') {
                    q = read();
                    q = q == 'n' ? '\n' : q == 't' ? '\t' : q;
                }
                if (q < 0) {
                    throw fault(begins, "a quotation mark is not closed");
                }
                append(text, q);
            }
            return text.toString();
        }
        while (c > ' ' && c != '(' && c != ')') {
            append(text, read());
            c = peek();
        }
        return text.toString();
    }

    private void append(StringBuilder text, int c) throws IOException {
        if (text.length() >= LONGEST_WORD) {
            throw fault(line, "a word is longer than " + LONGEST_WORD + " characters");
        }
        text.append((char) c);
    }

    private int skipSpace() throws IOException {
        int c = peek();
        while (c >= 0 && c <= ' ') {
            read();
            c = peek();
        }
        return c;
    }

    private int peek() throws IOException {
        if (at == filled) {
            filled = in.read(buffer, 0, buffer.length);
            at = 0;
            if (filled <= 0) {
                filled = 0;
                return -1;
            }
        }
        return buffer[at];
    }

    private int read() throws IOException {
        int c = peek();
        if (c >= 0) {
            at++;
            if (c == '\n') {
                line++;
            }
        }
        return c;
    }
}
