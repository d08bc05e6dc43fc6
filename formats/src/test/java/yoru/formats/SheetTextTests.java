package yoru.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringReader;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** OWASP, "CSV Injection": what begins with one of these is carried out by a spreadsheet. */
class SheetTextTests {

    @ParameterizedTest
    @ValueSource(
            strings = {
                "=HYPERLINK(\"https://evil.example\",\"x\")",
                "+1+1",
                "-2+3",
                "@SUM(A1)",
                "\t=1",
                "\r=1",
                "\n=1",
                "=1,2",
                "\uFF1D1+1"
            })
    void aNameIsNoFormula(String name) throws IOException {
        var csv =
                PeopleCsv.write(List.of(new PeopleCsv.Row("a@b.example", name, Instant.EPOCH, 1, 1, Optional.empty())));
        try (var rows = CSVFormat.RFC4180.parse(new StringReader(csv))) {
            assertThat(rows.getRecords().get(1).get(1)).isEqualTo("'" + name);
        }
    }

    /** Files for programs keep every text as it is. */
    @ParameterizedTest
    @ValueSource(strings = {"=1", "Ada", ""})
    void filesForProgramsChangeNothing(String text) {
        assertThat(AccessCsv.quoted(text)).isEqualTo(text);
    }
}
