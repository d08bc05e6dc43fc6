package yoru.core.followup;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import yoru.core.access.Words;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Followup;
import yoru.core.rulebook.Followup.Condition;
import yoru.core.rulebook.Followup.Sold;
import yoru.core.rulebook.Followup.Step;
import yoru.core.rulebook.Followup.When;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;

/** Says follow-ups in words: the parts of "When somebody has paid for …, if …, then …". */
public final class FollowupWords {

    /** More than that are counted. */
    private static final int NAMED = 4;

    private final Rulebook rulebook;

    public FollowupWords(Rulebook rulebook) {
        this.rulebook = rulebook;
    }

    /** What is waited for, as it goes on after "When". */
    public String when(When when) {
        return switch (when) {
            case When.OfOrder it ->
                switch (it.moment()) {
                    case PLACED -> "somebody has ordered " + set(it.of());
                    case PAID -> "somebody has paid for " + set(it.of());
                    case FULFILLED -> "an order of " + set(it.of()) + " is fulfilled";
                    case CANCELLED -> "an order of " + set(it.of()) + " is cancelled";
                    case REFUNDED -> set(it.of()) + " is paid back";
                };
            case When.Claimed it -> "somebody has taken up a seat or gift of " + set(it.of());
            case When.OfSubscription it ->
                switch (it.turn()) {
                    case STARTED -> "a subscription of " + set(it.of()) + " begins";
                    case TRIAL -> "a trial of " + set(it.of()) + " begins";
                    case RENEWED -> "a subscription of " + set(it.of()) + " is renewed";
                    case FAILED -> "a payment for " + set(it.of()) + " fails";
                    case CANCELLED -> "a subscription of " + set(it.of()) + " is cancelled";
                };
            case When.Opened it -> any(it.targets()) + " has opened for somebody";
            case When.Ended it -> any(it.targets()) + " has ended for somebody";
            case When.Ending it -> any(it.targets()) + " ends for somebody in " + Words.period(it.before());
            case When.Completed it ->
                "somebody has finished "
                        + or(it.courses().stream()
                                .map(course -> any(List.of(Destination.whole(course))))
                                .toList());
            case When.Account it -> "somebody has an account in " + or(it.systems());
        };
    }

    /** How often it serves one person. */
    public static String once(Followup followup) {
        return switch (followup.once()) {
            case ALWAYS -> "every time";
            case ORDER -> "once per order";
            case THING -> "once for each thing";
            case PERSON -> "the first time only";
        };
    }

    /** As it goes on after "if"; that it does not hold is said by {@code not} before it. */
    public String condition(Condition condition) {
        return switch (condition) {
            case Condition.Has it -> "they have " + any(it.targets());
            case Condition.Had it -> "they had " + any(it.targets()) + " before and have it no longer";
            case Condition.Bought it -> bought(it);
            case Condition.Amount it ->
                "the order comes to "
                        + Words.money(it.atLeast(), rulebook.school().currency()) + " or more";
            case Condition.OfChannel it -> it.byHand() ? "it was entered by hand" : "it was sold in a shop";
            case Condition.Field it -> "the field %s says “%s”".formatted(it.name(), it.is());
            case Condition.Any it -> it.of().stream().map(this::condition).collect(Collectors.joining(", or "));
            case Condition.Not it -> not(it.of());
        };
    }

    private String not(Condition condition) {
        return condition instanceof Condition.Has it
                ? "they do not have " + any(it.targets())
                : "it is not so that " + condition(condition);
    }

    /** All of which must hold. */
    public String conditions(List<Condition> conditions) {
        return conditions.stream().map(this::condition).collect(Collectors.joining(" and "));
    }

    private String bought(Condition.Bought it) {
        var did = switch (it.counts()) {
            case PLACED -> "they ordered ";
            case PAID -> "they bought ";
            case KEPT -> "they bought and kept ";
        };
        Integer least = it.atLeast();
        Integer most = it.atMost();
        if (most != null && most == 0) {
            return did + "none of " + set(it.of()) + " before";
        }
        var times = least == null
                ? "at most " + times(most)
                : most == null
                        ? "at least " + times(least)
                        : least.equals(most) ? times(least) : least + " to " + times(most);
        return did + set(it.of()) + " " + times + " before";
    }

    private static String times(@Nullable Integer many) {
        return many == null ? "any number of times" : many == 1 ? "once" : many + " times";
    }

    /** What came out of a condition that was asked, with what was counted. */
    public String answer(Followups.Answer answer) {
        return condition(answer.condition())
                + (answer.count() == null ? "" : " (" + answer.count() + ")")
                + (answer.holds() ? ": yes" : ": no");
    }

    /** One thing to be done, as it goes on after "then". */
    public String step(Step step) {
        return switch (step) {
            case Step.Give it ->
                "give " + all(it.to()) + (it.length() == null ? "" : " for " + Words.period(it.length()));
            case Step.Take it -> "take " + all(it.from()) + " away";
            case Step.SetField it -> "set the field %s to “%s”".formatted(it.field(), it.value());
            case Step.Write it ->
                "write “%s”".formatted(it.subject()) + (it.code() == null ? "" : " with " + code(it.code()));
            case Step.Tell it -> "tell the team “%s”".formatted(it.text());
            case Step.WaitFor it -> "wait " + Words.period(it.length());
            case Step.WaitUntil it -> "wait until " + it.at();
            case Step.If it -> "if " + conditions(it.of());
            case Step.Stop _ -> "stop here";
        };
    }

    /**
     * Something that was done, as rows say it: "give the tag First timer".
     *
     * @param does as in {@link Followups.Row#does()}
     * @param said the subject of a letter or the text of a message as people read it; none = as the row has it
     */
    public String done(String does, @Nullable String said) {
        var object = does.substring(does.indexOf(' ') + 1);
        return switch (does.substring(0, Math.max(0, does.indexOf(' ')))) {
            case "give" -> "give " + named(object);
            case "take" -> "take " + named(object) + " away";
            case "set" ->
                "set the field %s to “%s”"
                        .formatted(object.substring(0, object.indexOf('=')), object.substring(object.indexOf('=') + 1));
            case "write" -> "write “%s”".formatted(said == null ? object : said);
            case "tell" -> "tell the team “%s”".formatted(said == null ? object : said);
            case "end" -> "end " + named(object);
            default -> does;
        };
    }

    private String named(String path) {
        return "the " + path.substring(0, path.indexOf('/')) + " " + rulebook.title(Target.read(path));
    }

    /** A code as it goes on after "with". */
    public String code(Followup.Code code) {
        var worth = code.percent() != null
                ? code.percent().stripTrailingZeros().toPlainString() + " %"
                : code.amount() == null
                        ? "something"
                        : Words.money(code.amount(), rulebook.school().currency());
        return "a code for " + worth + " off"
                + (code.of() == null || code.of().isAnything() ? "" : " " + set(code.of()))
                + (code.expires() == null ? "" : ", good for " + Words.period(code.expires()));
    }

    /** Things that are sold. */
    public String set(Sold set) {
        if (set.isAnything()) {
            return "anything";
        }
        var named = new ArrayList<String>();
        set.categories().stream().sorted().forEach(category -> named.add("any of " + category));
        set.products().stream().sorted().forEach(product -> named.add(rulebook.titleOfProduct(product)));
        set.options().stream().sorted().forEach(option -> named.add(titleOfOption(option)));
        return or(named);
    }

    private String titleOfOption(String id) {
        for (Product product : rulebook.products()) {
            for (Option option : product.options()) {
                if (option.id().equals(id)) {
                    return product.title() + ", " + option.title();
                }
            }
        }
        return id;
    }

    private String any(List<Destination> targets) {
        return or(names(targets).toList());
    }

    private String all(List<Destination> targets) {
        return listed(names(targets).toList(), "and");
    }

    private Stream<String> names(List<Destination> targets) {
        return targets.stream().map(this::name);
    }

    /** One of what follow-ups name: "the tag First timer". */
    public String name(Destination one) {
        return switch (one) {
            case Destination.OfCourse it ->
                rulebook.course(it.course()).map(course -> course.title()).orElse(it.course());
            case Destination.OfCategory it ->
                "any course of " + it.category()
                        + (it.except().isEmpty() ? "" : " but " + String.join(", ", it.except()));
            case Destination.Exactly it -> named(it.target().path());
        };
    }

    private static String or(Collection<String> names) {
        return listed(names, "or");
    }

    private static String listed(Collection<String> names, String last) {
        var list = List.copyOf(names);
        if (list.size() > NAMED) {
            return String.join(", ", list.subList(0, NAMED - 1)) + " " + last + " " + (list.size() - NAMED + 1)
                    + " more";
        }
        return list.size() < 2
                ? String.join("", list)
                : String.join(", ", list.subList(0, list.size() - 1)) + " " + last + " " + list.getLast();
    }
}
