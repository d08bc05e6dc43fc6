package yoru.cli;

import java.util.List;
import yoru.formats.Fault;

/** Input that cannot be used, one line for each fault. */
final class UnusableException extends RuntimeException {

    private static final long serialVersionUID = 1;

    private final transient List<String> lines;

    UnusableException(List<String> lines) {
        super(String.join("; ", lines));
        this.lines = List.copyOf(lines);
    }

    List<String> lines() {
        return lines;
    }

    /** "R.yaml, links[3].to[0].course: no course `quen-rearing`". */
    static String line(String file, String place, Fault fault) {
        return file + ", " + place + fault;
    }
}
