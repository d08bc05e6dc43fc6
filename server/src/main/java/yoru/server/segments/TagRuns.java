package yoru.server.segments;

import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.ledger.Fact;
import yoru.core.ledger.FactId;
import yoru.core.ledger.Happening;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.Origin;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.platform.Queue;

/** Puts a tag on many people or takes it off, a few in each transaction; interrupted, it goes on where it stopped. */
@Service
public class TagRuns {

    static final TaskDescriptor<Void> RUN = TaskDescriptor.of("tag-run");

    private static final String SOURCE = "/segments";
    private static final int AT_ONCE = 50;
    private static final int SHOWN = 5;

    private final TagRunTable runs;
    private final FactKeeper keeper;
    private final Journal journal;
    private final Queue queue;
    private final JsonMapper json;
    private final Clock clock;

    TagRuns(TagRunTable runs, FactKeeper keeper, Journal journal, Queue queue, JsonMapper json, Clock clock) {
        this.runs = runs;
        this.keeper = keeper;
        this.journal = journal;
        this.queue = queue;
        this.json = json;
        this.clock = clock;
    }

    /** How far it is. */
    record ShownRun(
            String id,
            String title,
            String tag,
            boolean putOn,
            TagRun.State state,
            int total,
            int done,
            Instant startedAt,
            String startedBy,
            @Nullable Instant endedAt) {}

    @Configuration(proxyBeanMethods = false)
    static class Work {
        @Bean
        OneTimeTask<Void> tagRun(TagRuns runs) {
            return Tasks.oneTime(RUN).onFailure(Queue.againSoon()).execute((task, context) -> {
                while (runs.step(task.getId())) {
                    // a transaction for each step
                }
            });
        }
    }

    /**
     * Begins; the same key again begins nothing.
     *
     * @param people the keys of those for whom it is done, as they are now
     */
    @Transactional
    public ShownRun start(String key, String title, String tag, boolean putOn, List<String> people, String operator) {
        keeper.holdBack("run " + key);
        var known = runs.findById(key);
        if (known.isPresent()) {
            return shown(known.get());
        }
        var run = new TagRun(key, title, tag, putOn, people.size());
        run.startedAt = clock.instant();
        run.startedBy = operator;
        run.endedAt = people.isEmpty() ? run.startedAt : null;
        runs.saveAndFlush(run);
        runs.forPeople(key, json.writeValueAsString(people));
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                putOn ? "Tag put on for many" : "Tag taken off for many",
                "%s: %s, %d people".formatted(tag, title, people.size()),
                operator,
                null,
                null));
        queue.now(RUN, key);
        return shown(run);
    }

    /** Does the next few. @return whether any are left */
    @Transactional
    public boolean step(String id) {
        var run = runs.lock(id);
        if (run.state != TagRun.State.RUNNING) {
            return false;
        }
        var next = runs.next(id, AT_ONCE);
        for (String person : next) {
            var tagged = new Fact(
                    new FactId(SOURCE, id + " " + person),
                    person,
                    run.startedAt,
                    run.putOn ? new Happening.TagAdded(run.tag) : new Happening.TagRemoved(run.tag));
            keeper.keep(new Origin.OfOperator(run.startedBy), tagged);
            runs.isDone(id, person);
        }
        run.done += next.size();
        if (next.size() < AT_ONCE) {
            run.state = TagRun.State.DONE;
            run.endedAt = clock.instant();
        }
        return run.state == TagRun.State.RUNNING;
    }

    /** Ends it where it is; for whom it was done it stays so. */
    @Transactional
    public ShownRun stop(String id, String operator) {
        if (!runs.existsById(id)) {
            throw ProblemException.notFound("No such run.");
        }
        var run = runs.lock(id);
        if (run.state == TagRun.State.RUNNING) {
            run.state = TagRun.State.STOPPED;
            run.endedAt = clock.instant();
            runs.forgetRest(id);
            journal.write(new Journal.Line(
                    Kind.OPERATOR,
                    "Stopped: a tag for many",
                    "%s: %s, done for %d of %d".formatted(run.tag, run.title, run.done, run.total),
                    operator,
                    null,
                    null));
        }
        return shown(run);
    }

    @Transactional(readOnly = true)
    public List<ShownRun> latest() {
        return runs.findAllByOrderByStartedAtDesc(Limit.of(SHOWN)).stream()
                .map(TagRuns::shown)
                .toList();
    }

    private static ShownRun shown(TagRun run) {
        return new ShownRun(
                run.id,
                run.title,
                run.tag,
                run.putOn,
                run.state,
                run.total,
                run.done,
                run.startedAt,
                run.startedBy,
                run.endedAt);
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        runs.forgetPeople(forgotten.forgetting().keys());
    }
}
