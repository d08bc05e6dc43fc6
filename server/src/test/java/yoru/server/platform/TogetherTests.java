package yoru.server.platform;

import static java.util.concurrent.TimeUnit.SECONDS;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** Who asks while others are served goes with all who wait; whose work fails is the only one to learn of it. */
class TogetherTests {

    private static final int REFUSED = 13;

    private final PlatformTransactionManager transactions = mock();
    private final List<List<Integer>> served = new ArrayList<>();
    private final CountDownLatch isServed = new CountDownLatch(1);
    private final CountDownLatch goOn = new CountDownLatch(1);
    private final Together<Integer, String> together =
            new Together<>(new TransactionTemplate(transactions), 1, 4, this::serve);
    private final ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor();

    @AfterEach
    void end() {
        goOn.countDown();
        threads.close();
    }

    /** The first is held up until the others wait. */
    private List<String> serve(List<Integer> numbers) {
        served.add(numbers);
        isServed.countDown();
        awaitQuietly(goOn);
        if (numbers.contains(REFUSED)) {
            throw new IllegalArgumentException("refused");
        }
        return numbers.stream().map(String::valueOf).toList();
    }

    private static void awaitQuietly(CountDownLatch latch) {
        try {
            assertThat(latch.await(20, SECONDS)).isTrue();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private List<CompletableFuture<String>> ask(int... numbers) {
        return IntStream.of(numbers)
                .mapToObj(number -> {
                    var answer = CompletableFuture.supplyAsync(() -> together.ask(number), threads);
                    await().atMost(20, SECONDS).until(() -> together.waiting() >= number || answer.isDone());
                    return answer;
                })
                .toList();
    }

    private CompletableFuture<String> theFirst() {
        var first = CompletableFuture.supplyAsync(() -> together.ask(0), threads);
        awaitQuietly(isServed);
        return first;
    }

    @Test
    void whoWaitsGoesWithAllWhoWaitAndEachHasTheirOwnAnswer() {
        var first = theFirst();
        var others = ask(1, 2, 3, 4, 5);
        goOn.countDown();

        assertThat(first.join()).isEqualTo("0");
        assertThat(others.stream().map(CompletableFuture::join)).containsExactly("1", "2", "3", "4", "5");
        assertThat(served).containsExactly(List.of(0), List.of(1, 2, 3, 4), List.of(5));
        verify(transactions, times(3)).commit(any());
    }

    @Test
    void whatFailsForAllIsDoneForEachAloneAndOnlyOneLearnsOfIt() {
        var first = theFirst();
        var one = ask(1).getFirst();
        var refused = CompletableFuture.supplyAsync(() -> together.ask(REFUSED), threads);
        await().atMost(20, SECONDS).until(() -> together.waiting() == 2);
        goOn.countDown();

        assertThat(first.join()).isEqualTo("0");
        assertThat(one.join()).isEqualTo("1");
        assertThatThrownBy(refused::join)
                .isInstanceOf(CompletionException.class)
                .hasRootCauseMessage("refused");
        assertThat(served).containsExactly(List.of(0), List.of(1, REFUSED), List.of(1), List.of(REFUSED));
        verify(transactions, times(2)).commit(any());
        verify(transactions, times(2)).rollback(any());
    }

    @Test
    void whatDoesNotCommitIsNotAnswered() {
        doThrow(new DataAccessResourceFailureException("away"))
                .doNothing()
                .when(transactions)
                .commit(any());
        goOn.countDown();

        assertThatThrownBy(() -> together.ask(1)).hasMessage("away");
        assertThat(together.ask(2)).isEqualTo("2");
    }
}
