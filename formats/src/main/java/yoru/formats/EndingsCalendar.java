package yoru.formats;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;

/** When what people have comes to an end, as a calendar (RFC 5545). Times are in UTC. */
public final class EndingsCalendar {

    private static final DateTimeFormatter UTC =
            DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    /** RFC 5545, 3.1: a line is not longer than that, in octets of UTF-8 and without its end. */
    private static final int LONGEST_LINE = 75;

    private EndingsCalendar() {}

    /**
     * One ending.
     *
     * @param id stays the same as long as it is the same person, thing and time
     * @param summary what stands in the calendar
     */
    public record Event(String id, Instant at, String summary, String more) {}

    /**
     * @param name of the calendar
     * @param now when it is written
     */
    public static String write(String name, List<Event> endings, Instant now) {
        var text = new StringBuilder();
        line(text, "BEGIN:VCALENDAR");
        line(text, "VERSION:2.0");
        line(text, "PRODID:-//Yoru//Endings//EN");
        line(text, "CALSCALE:GREGORIAN");
        line(text, "X-WR-CALNAME:" + escaped(name));
        for (Event ending : endings) {
            line(text, "BEGIN:VEVENT");
            line(text, "UID:" + escaped(ending.id));
            line(text, "DTSTAMP:" + UTC.format(now));
            line(text, "DTSTART:" + UTC.format(ending.at));
            line(text, "SUMMARY:" + escaped(ending.summary));
            if (!ending.more.isEmpty()) {
                line(text, "DESCRIPTION:" + escaped(ending.more));
            }
            line(text, "TRANSP:TRANSPARENT");
            line(text, "END:VEVENT");
        }
        line(text, "END:VCALENDAR");
        return text.toString();
    }

    /** RFC 5545, 3.3.11. */
    private static String escaped(String text) {
        return text.replace("\\", "\\\\")
                .replace(";", "\\;")
                .replace(",", "\\,")
                .replace("\r\n", "\\n")
                .replace("\n", "\\n")
                .replaceAll("\\p{Cntrl}", " ");
    }

    /** Folded between characters: a line goes on in the next one after a space. */
    private static void line(StringBuilder into, String line) {
        int octets = 0;
        for (int at = 0; at < line.length(); ) {
            var one = Character.toString(line.codePointAt(at));
            int size = one.getBytes(StandardCharsets.UTF_8).length;
            if (octets + size > LONGEST_LINE) {
                into.append("\r\n ");
                octets = 1;
            }
            into.append(one);
            octets += size;
            at += one.length();
        }
        into.append("\r\n");
    }
}
