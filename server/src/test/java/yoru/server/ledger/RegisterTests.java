package yoru.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import yoru.server.ServerTest;

/** Who is known, asked for as many as there are: one statement of PostgreSQL takes 65,535 values. */
@ServerTest
class RegisterTests {

    @Autowired
    private Register register;

    @Test
    void asManyAreFoundAndLockedAsAreAskedFor() {
        var known = "ada-" + UUID.randomUUID() + "@register.example";
        register.know(known, "Ada");
        var keys = Stream.concat(
                        IntStream.range(0, 70_000).mapToObj(n -> "nobody-" + n + "@register.example"), Stream.of(known))
                .collect(Collectors.toSet());
        assertThat(register.people(keys)).containsOnlyKeys(known);
        assertThatCode(() -> register.lockKnown(keys)).doesNotThrowAnyException();
    }
}
