package yoru.server.people;

import java.time.Instant;
import java.util.Optional;
import java.util.function.Predicate;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import yoru.formats.PeopleCsv;
import yoru.server.platform.SearchWords;

/** The list of people as a file. */
@Service
public class PeopleFile {

    private final PeopleTable people;

    PeopleFile(PeopleTable people) {
        this.people = people;
    }

    /**
     * People by their address, as CSV (docs/formats/results.md).
     *
     * @param words that are in their name or address; empty = any
     * @param wanted whether somebody is to be in it, by key
     */
    @Transactional(readOnly = true)
    public String csv(String words, Instant asOf, Predicate<String> wanted) {
        return PeopleCsv.write(people.all(SearchWords.anywhere(words), asOf).stream()
                .filter(row -> wanted.test(row.getKey()))
                .map(row -> new PeopleCsv.Row(
                        row.getKey(),
                        row.getName().equals(row.getKey()) ? "" : row.getName(),
                        row.getSince(),
                        row.getOrders(),
                        row.getOpen(),
                        Optional.ofNullable(row.getNextEnd())))
                .toList());
    }
}
