package yoru.core.findings;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import yoru.core.findings.Finding.Kind;
import yoru.core.followup.FollowupWords;
import yoru.core.followup.Targets;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Row;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;

/** What is unfinished or odd about follow-ups that are on. */
final class FollowupFindings {

    /** Fewer rows than that have no usual value from which one could differ. */
    private static final int ROWS_TO_COMPARE = 3;

    /** An amount of money, however it is written. */
    private static final Pattern PRICE = Pattern.compile("[€$£]\\s?\\d|\\b\\d+[.,]\\d{2}\\b|\\b(EUR|USD|GBP|CHF)\\b");

    private final Rulebook rulebook;
    private final FollowupWords words;

    FollowupFindings(Rulebook rulebook) {
        this.rulebook = rulebook;
        this.words = new FollowupWords(rulebook);
    }

    void addTo(List<Finding> found) {
        var on = rulebook.followups().stream().filter(Followup::on).toList();
        on.forEach(followup -> {
            rows(followup, found);
            start(followup, found);
            early(followup, found);
            forGood(followup, found);
            price(followup, found);
        });
        twoLetters(on, found);
    }

    private static Finding finding(Kind kind, Followup followup, String title, String text, String advice) {
        return new Finding(
                kind, "followup/" + followup.id(), followup.title() + ": " + title, text, advice, 0, text, List.of());
    }

    /** What it is about that is sold; nothing where it is about something else. */
    private static List<Sold> sold(When when) {
        return switch (when) {
            case When.OfOrder it -> List.of(it.of());
            case When.Claimed it -> List.of(it.of());
            case When.OfSubscription it -> List.of(it.of());
            case When.Opened _, When.Ended _, When.Ending _, When.Completed _, When.Account _ -> List.of();
        };
    }

    private List<Product> products(Sold set) {
        return set.in(rulebook.products());
    }

    private void rows(Followup followup, List<Finding> found) {
        if (followup.rows().isEmpty()) {
            return;
        }
        var named = followup.rows().stream().map(Row::product).collect(Collectors.toSet());
        for (Sold set : sold(followup.when())) {
            var missing = set.isAnything()
                    ? List.<Product>of()
                    : products(set).stream()
                            .filter(product -> !named.contains(product.id()))
                            .toList();
            if (!missing.isEmpty()) {
                found.add(finding(
                        Kind.ROW_MISSING,
                        followup,
                        missing.size() == 1 ? "a row is missing" : missing.size() + " rows are missing",
                        "It waits for " + words.set(set) + ", and has no row for "
                                + missing.stream().map(Product::title).collect(Collectors.joining(", "))
                                + ": whoever buys that is not served.",
                        "Add the rows, or wait for less."));
            }
        }
        var names = new TreeSet<String>();
        followup.rows().forEach(row -> names.addAll(row.values().keySet()));
        names.forEach(name -> differs(followup, name, found));
    }

    private void differs(Followup followup, String name, List<Finding> found) {
        Map<String, List<Row>> by = new HashMap<>();
        followup.rows()
                .forEach(row -> by.computeIfAbsent(row.values().getOrDefault(name, ""), key -> new ArrayList<>())
                        .add(row));
        if (by.size() != 2 || followup.rows().size() < ROWS_TO_COMPARE) {
            return;
        }
        by.values().stream()
                .filter(rows -> rows.size() == 1)
                .map(List::getFirst)
                .findFirst()
                .ifPresent(row -> found.add(finding(
                        Kind.ROW_DIFFERS,
                        followup,
                        "one row differs",
                        "The %s of %s is “%s”; all other rows say the same of it."
                                .formatted(name, about(row), row.values().getOrDefault(name, "")),
                        "Perhaps it is meant so.")));
    }

    private String about(Row row) {
        return row.product() != null
                ? rulebook.titleOfProduct(row.product())
                : row.target() == null ? "" : words.name(row.target());
    }

    private void start(Followup followup, List<Finding> found) {
        boolean never = switch (followup.when()) {
            case When.OfOrder it -> isOfNothing(it.of());
            case When.Claimed it -> isOfNothing(it.of());
            case When.OfSubscription it ->
                isOfNothing(it.of())
                        || (!it.of().isAnything()
                                && products(it.of()).stream()
                                        .noneMatch(product -> product.billing() instanceof Billing.Recurring));
            case When.Opened it -> Targets.of(it.targets(), rulebook).isEmpty();
            case When.Ended it -> Targets.of(it.targets(), rulebook).isEmpty();
            case When.Ending it -> Targets.of(it.targets(), rulebook).isEmpty();
            case When.Completed _, When.Account _ -> false;
        };
        if (never) {
            found.add(finding(
                    Kind.NOTHING_STARTS_IT,
                    followup,
                    "nothing can start it",
                    "It waits until " + words.when(followup.when()) + ", and there is no such thing.",
                    "Have it wait for something that there is, or switch it off."));
        }
    }

    private boolean isOfNothing(Sold set) {
        return !set.isAnything() && products(set).isEmpty();
    }

    /** Whether a letter goes at once, before any wait. */
    private static boolean writesAtOnce(List<Step> steps) {
        for (Step step : steps) {
            switch (step) {
                case Step.Write _ -> {
                    return true;
                }
                case Step.WaitFor _, Step.WaitUntil _, Step.Stop _ -> {
                    return false;
                }
                case Step.If it -> {
                    if (writesAtOnce(it.then()) || writesAtOnce(it.otherwise())) {
                        return true;
                    }
                }
                case Step.Give _, Step.Take _, Step.SetField _, Step.Tell _ -> {}
            }
        }
        return false;
    }

    private void early(Followup followup, List<Finding> found) {
        if (!(followup.when() instanceof When.OfOrder it)
                || it.moment() != When.Moment.PLACED
                || !writesAtOnce(followup.steps())) {
            return;
        }
        var later = products(it.of()).stream()
                .filter(product ->
                        rulebook.opensOn(product) != OpensOn.PLACED && !(product.billing() instanceof Billing.Free))
                .toList();
        if (!later.isEmpty()) {
            found.add(finding(
                    Kind.WRITES_TOO_EARLY,
                    followup,
                    "its letter goes before anything is open",
                    "It writes when an order is placed; %s opens only once it is paid or fulfilled."
                            .formatted(later.getFirst().title()),
                    "Have it wait until it is paid, or for a while."));
        }
    }

    private void forGood(Followup followup, List<Finding> found) {
        boolean gives = followup.allSteps().anyMatch(Step.Give.class::isInstance);
        boolean isPaidFor = followup.when() instanceof When.OfSubscription
                || followup.when() instanceof When.Claimed
                || (followup.when() instanceof When.OfOrder it
                        && it.moment() != When.Moment.CANCELLED
                        && it.moment() != When.Moment.REFUNDED);
        if (followup.always() && gives && isPaidFor) {
            found.add(finding(
                    Kind.LASTS_FOR_GOOD,
                    followup,
                    "what it gives stays after a refund",
                    "What it gives lasts for good, though it is given for something that is paid for.",
                    "Have it last as long as its cause, if a refund should take it back."));
        }
    }

    private void price(Followup followup, List<Finding> found) {
        Predicate<Product> isFree = product -> product.billing() instanceof Billing.Free;
        var free = sold(followup.when()).stream()
                .flatMap(set -> products(set).stream())
                .filter(isFree)
                .findFirst();
        if (free.isEmpty()) {
            return;
        }
        followup.allSteps()
                .filter(step -> step instanceof Step.Write it
                        && (PRICE.matcher(it.subject()).find()
                                || PRICE.matcher(it.text()).find()))
                .findFirst()
                .ifPresent(step -> found.add(finding(
                        Kind.PRICE_IN_FREE_LETTER,
                        followup,
                        "a price in a letter about a free place",
                        "Its letter names a price, and it also goes to whoever has %s, which is free."
                                .formatted(free.get().title()),
                        "Leave the price out, or the free one.")));
    }

    /** Two that wait for the same and write at once, whoever it is. */
    private void twoLetters(List<Followup> on, List<Finding> found) {
        for (int at = 0; at < on.size(); at++) {
            var one = on.get(at);
            for (Followup other : on.subList(at + 1, on.size())) {
                if (one.when().equals(other.when())
                        && one.only().equals(other.only())
                        && writesAtOnce(one.steps())
                        && writesAtOnce(other.steps())) {
                    found.add(finding(
                            Kind.TWO_LETTERS,
                            one,
                            "two letters at once",
                            "It and “%s” both write when %s.".formatted(other.title(), words.when(one.when())),
                            "Write it in one letter."));
                }
            }
        }
    }
}
