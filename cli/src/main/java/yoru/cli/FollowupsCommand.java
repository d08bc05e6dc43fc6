package yoru.cli;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import yoru.core.followup.Followups;
import yoru.core.ledger.Ledger;
import yoru.formats.FollowupsCsv;

/** Writes what follow-ups do, until a time. */
@Command(
        name = "followups",
        mixinStandardHelpOptions = true,
        sortOptions = false,
        description = "Computes what follow-ups do from a rulebook and a ledger and writes it to standard output.",
        footer = {
            "",
            "Writes CSV (time,person,followup,occasion,step,does; times in UTC), sorted by these.",
            "Exit code 0; 2 = input that cannot be used, one line per fault on standard error."
        })
final class FollowupsCommand implements Callable<Integer> {

    @Mixin
    private final Inputs inputs = new Inputs();

    private final Files files;
    private final OutputStream out;

    FollowupsCommand(Files files, OutputStream out) {
        this.files = files;
        this.out = out;
    }

    @Override
    public Integer call() throws IOException {
        var given = inputs.read(files, null);
        var rows = new ArrayList<Followups.Row>();
        try (var ledger = given.ledger()) {
            var followups = new Followups(given.rulebook());
            for (Iterator<Ledger> parts = ledger.parts().iterator(); parts.hasNext(); ) {
                rows.addAll(followups.until(parts.next(), given.asOf()).rows());
            }
        }
        rows.sort(Followups.Row.ORDER);
        var to = new BufferedOutputStream(out, 1 << 16);
        to.write(FollowupsCsv.HEADER.getBytes(StandardCharsets.UTF_8));
        for (Followups.Row row : rows) {
            to.write(FollowupsCsv.row(row).getBytes(StandardCharsets.UTF_8));
        }
        to.flush();
        return 0;
    }
}
