package yoru.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.AbstractPlatformTransactionManager;
import org.springframework.transaction.support.DefaultTransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;

/** What a transaction gathers is done once for all of it, before it commits, or never. */
class AtEndTests {

    private final List<String> done = new ArrayList<>();
    private final AtEnd<String> later = new AtEnd<>(items -> done.add("later " + items));
    private final AtEnd<String> rows = new AtEnd<>(items -> {
        done.add("rows " + items);
        later.with(items);
    });
    private final TransactionTemplate transaction = new TransactionTemplate(new Transactions());

    /** Synchronizations as Spring has them, over nothing. */
    private final class Transactions extends AbstractPlatformTransactionManager {

        @Override
        protected Object doGetTransaction() {
            return new Object();
        }

        @Override
        protected void doBegin(Object it, TransactionDefinition definition) {}

        @Override
        protected void doCommit(DefaultTransactionStatus status) {
            done.add("commit");
        }

        @Override
        protected void doRollback(DefaultTransactionStatus status) {
            done.add("rollback");
        }
    }

    @Test
    void allIsDoneOnceBeforeTheCommitAndWhatThatMakesNecessaryToo() {
        transaction.executeWithoutResult(status -> {
            rows.with(List.of("a"));
            rows.with(List.of("b", "a"));
        });
        assertThat(done).containsExactly("rows [a, b, a]", "later [a, b, a]", "commit");
    }

    @Test
    void anotherTransactionHasItsOwn() {
        transaction.executeWithoutResult(status -> rows.with(List.of("a")));
        transaction.executeWithoutResult(status -> later.with(List.of("b")));
        assertThat(done).containsExactly("rows [a]", "later [a]", "commit", "later [b]", "commit");
    }

    @Test
    void whatIsRolledBackIsNotDone() {
        assertThatThrownBy(() -> transaction.executeWithoutResult(status -> {
                    rows.with(List.of("a"));
                    throw new IllegalStateException("no");
                }))
                .hasMessage("no");
        assertThat(done).containsExactly("rollback");
    }

    @Test
    void withoutATransactionItIsDoneAtOnce() {
        rows.with(List.of("a"));
        assertThat(done).containsExactly("rows [a]", "later [a]");
    }
}
