package yoru.formats;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import yoru.core.access.Access;

/** Rows of access as CSV: RFC 4180's quoting, lines that end with LF, times in UTC cut off to seconds. */
public final class AccessCsv {

    public static final String HEADER = "person,target,start,end,state\n";

    private AccessCsv() {}

    public static String row(Access access) {
        return quoted(access.person())
                + ","
                + quoted(access.target().path())
                + ","
                + seconds(access.window().start())
                + ","
                + access.window().end().map(AccessCsv::seconds).orElse("")
                + ","
                + Fields.word(access.state())
                + "\n";
    }

    /** ISO 8601, cut off to seconds. */
    public static String seconds(Instant instant) {
        return instant.truncatedTo(ChronoUnit.SECONDS).toString();
    }

    /** As it stands where nothing in it would be misread. */
    public static String quoted(String text) {
        boolean plain = text.chars().noneMatch(c -> c == '"' || c == ',' || c == '\n' || c == '\r');
        return plain ? text : '"' + text.replace("\"", "\"\"") + '"';
    }
}
