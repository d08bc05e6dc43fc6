package yoru.formats;

import yoru.core.followup.Followups;

/** What follow-ups do, as CSV: quoting and times as in the rows of access. */
public final class FollowupsCsv {

    public static final String HEADER = "time,person,followup,occasion,step,does\n";

    private FollowupsCsv() {}

    public static String row(Followups.Row row) {
        return AccessCsv.seconds(row.time())
                + ","
                + AccessCsv.quoted(row.person())
                + ","
                + AccessCsv.quoted(row.followup())
                + ","
                + AccessCsv.quoted(row.occasion())
                + ","
                + row.step()
                + ","
                + AccessCsv.quoted(row.does())
                + "\n";
    }
}
