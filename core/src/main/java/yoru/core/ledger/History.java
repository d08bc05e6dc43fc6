package yoru.core.ledger;

import java.util.ArrayList;
import java.util.List;

/** All that is known of one person, in folding order. */
public final class History {

    private final String person;
    private final List<Order> orders = new ArrayList<>();
    private final List<Order> claimed = new ArrayList<>();
    private final List<Subscription> subscriptions = new ArrayList<>();
    private final List<Grant> grants = new ArrayList<>();
    private final List<Fact> levels = new ArrayList<>();
    private final List<Fact> tags = new ArrayList<>();
    private final List<Fact> lists = new ArrayList<>(0);
    private final List<Fact> completed = new ArrayList<>();
    private final List<Fact> choices = new ArrayList<>();

    History(String person) {
        this.person = person;
    }

    public String person() {
        return person;
    }

    /** Orders that the person placed. */
    public List<Order> orders() {
        return orders;
    }

    /** Orders, also other people's, of which the person claimed a seat; each once. */
    public List<Order> claimed() {
        return claimed;
    }

    public List<Subscription> subscriptions() {
        return subscriptions;
    }

    public List<Grant> grants() {
        return grants;
    }

    /** Lists left and joined again by the person. */
    public List<Fact> lists() {
        return lists;
    }

    /** Levels started and ended outside. */
    public List<Fact> levels() {
        return levels;
    }

    /** Tags added and removed outside. */
    public List<Fact> tags() {
        return tags;
    }

    public List<Fact> completed() {
        return completed;
    }

    /** Courses chosen and released. */
    public List<Fact> choices() {
        return choices;
    }
}
