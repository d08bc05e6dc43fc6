package yoru.formats;

import java.util.List;
import java.util.stream.Collectors;

/** The document cannot be used; says every fault found. */
public final class UnreadableException extends RuntimeException {

    private static final long serialVersionUID = 1;

    private final transient List<Fault> faults;

    public UnreadableException(List<Fault> faults) {
        super(faults.stream().map(Fault::toString).collect(Collectors.joining("; ")));
        this.faults = List.copyOf(faults);
    }

    public List<Fault> faults() {
        return faults;
    }
}
