package yoru.server.desk;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.desk.Act;
import yoru.core.desk.Decision;
import yoru.core.desk.Desk;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Ledger;
import yoru.server.charges.Charges;
import yoru.server.ledger.FactKeeper;
import yoru.server.ledger.LedgerReader;
import yoru.server.ledger.Origin;
import yoru.server.ledger.Person;
import yoru.server.ledger.Register;
import yoru.server.orders.OrderBook;
import yoru.server.platform.PersonForgotten;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Connector;

/** Does acts: decides them over all that can matter, and keeps their facts, each act once. */
@Service
public class DeskService {

    /** What an order is called while it is only looked at. */
    static final String NEW_ORDER = "new";

    /** By which an act is known that is not done. */
    static final String NOT_DONE = "looked-at";

    private final LedgerReader ledger;
    private final Register register;
    private final FactKeeper keeper;
    private final Rulebooks rulebooks;
    private final OrderBook orders;
    private final DeskActs acts;
    private final Charges charges;
    private final Clock clock;

    DeskService(
            LedgerReader ledger,
            Register register,
            FactKeeper keeper,
            Rulebooks rulebooks,
            OrderBook orders,
            DeskActs acts,
            Charges charges,
            Clock clock) {
        this.ledger = ledger;
        this.register = register;
        this.keeper = keeper;
        this.rulebooks = rulebooks;
        this.orders = orders;
        this.acts = acts;
        this.charges = charges;
        this.clock = clock;
    }

    /**
     * An act, before anything is decided about it.
     *
     * @param people the keys of all whom it can concern
     * @param known all facts that matter for them
     */
    record Asked(Act act, Set<String> people, Ledger known) {}

    /**
     * What was done.
     *
     * @param again whether it had been done before, and nothing was done now
     */
    public record Done(@Nullable String order, @Nullable Long person, boolean again) {}

    @Transactional(readOnly = true)
    public Asked ask(ActSheet sheet) {
        return ask(sheet.act(NEW_ORDER));
    }

    private Asked ask(Act act) {
        var people = concerned(act);
        return new Asked(act, people, ledger.concerning(people));
    }

    /** @throws ProblemException where it cannot be done */
    Decision decide(Asked asked, String key) {
        var decision = new Desk(rulebooks.current().engine(), asked.known, clock.instant()).decide(asked.act, key);
        if (decision.isRefused()) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This cannot be done",
                    String.join(
                            " ",
                            decision.refusals().stream()
                                    .map(Decision.Refusal::problem)
                                    .toList()),
                    Map.of("errors", decision.refusals()));
        }
        return decision;
    }

    /**
     * Somebody takes up a gift or a seat for themselves.
     *
     * @param key tells this from all other acts
     */
    @Transactional
    public Done claim(String key, Act.Claim claim, String name) {
        return visit(key, claim, name, claim.person());
    }

    /**
     * Somebody does something for themselves on a page of their own.
     *
     * @param key tells this from all other acts
     * @param name under which they are known; empty = nothing is said
     * @param visitor who they are
     */
    @Transactional
    public Done visit(String key, Act act, String name, String visitor) {
        return once(key, act.toString(), () -> act, name, new Origin.OfVisitor(visitor));
    }

    /** @param key tells this act from all others; sent again, it does nothing */
    @Transactional
    Done act(String key, ActSheet sheet, String operator) {
        var done = once(
                key,
                sheet.toString(),
                () -> sheet.act(sheet.kind() == ActSheet.Kind.SELL ? orders.nextId() : NEW_ORDER),
                sheet.name(),
                new Origin.OfOperator(operator));
        var onFile = sheet.onFile();
        if (onFile != null && done.order != null && !done.again) {
            charges.begin(
                    done.order, onFile.connection(), new Connector.Method(onFile.method(), onFile.label()), operator);
        }
        return done;
    }

    /** @param said what was asked for, to tell whether it is the same when it comes again */
    private Done once(String key, String said, Supplier<Act> asked, @Nullable String name, Origin origin) {
        var fingerprint =
                UUID.nameUUIDFromBytes(said.getBytes(StandardCharsets.UTF_8)).toString();
        if (acts.begin(key, clock.instant(), origin.actor(), fingerprint) == 0) {
            return doneBefore(acts.findById(key).orElseThrow(), fingerprint);
        }
        var act = asked.get();
        holdBack(act);
        var decision = decide(ask(act), key);
        for (Fact fact : decision.facts()) {
            keep(fact, name, origin);
        }
        var done = acts.findById(key).orElseThrow();
        done.orderId = act.aboutOrMakes().orElse(null);
        done.personId = register.person(decision.facts().getFirst().subject())
                .map(Person::id)
                .orElse(null);
        return new Done(done.orderId, done.personId, false);
    }

    private static Done doneBefore(DeskAct before, String fingerprint) {
        if (!before.fingerprint.equals(fingerprint)) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "Something else was done already",
                    "What was sent before under the same key was done%s. Nothing was done now: look at it, then begin anew."
                            .formatted(before.orderId == null ? "" : ", as order " + before.orderId));
        }
        return new Done(before.orderId, before.personId, true);
    }

    /** So that two at the desk do not decide the same thing at once from what was there before. */
    private void holdBack(Act act) {
        switch (act) {
            case Act.Join _, Act.Part _ -> keeper.holdBackAll();
            case Act.AboutOrder it -> keeper.holdBack("order " + it.order());
            case Act.AboutPerson it -> keeper.holdBack(it.person());
        }
    }

    private void keep(Fact fact, @Nullable String name, Origin origin) {
        var event = FactKeeper.event(fact);
        if (name != null && !name.isBlank() && event.path("data") instanceof ObjectNode data) {
            data.put("name", name.strip());
        }
        keeper.keep(origin, event);
    }

    private Set<String> concerned(Act act) {
        var people = new LinkedHashSet<String>();
        switch (act) {
            case Act.AboutPerson it -> people.add(it.person());
            case Act.AboutOrder it ->
                ledger.order(it.order(), clock.instant()).ifPresent(order -> {
                    people.add(order.person());
                    order.claims().values().forEach(claim -> people.add(claim.person()));
                });
        }
        if (act instanceof Act.Join it) {
            people.add(it.into());
        }
        if (act instanceof Act.Claim it) {
            people.add(it.person());
        }
        if (act instanceof Act.Assign it) {
            people.addAll(it.people());
        }
        return people;
    }

    @EventListener
    void on(PersonForgotten forgotten) {
        var forgetting = forgotten.forgetting();
        acts.findByOperatorIn(forgetting.keys()).forEach(act -> act.operator = forgetting.text(act.operator));
    }
}
