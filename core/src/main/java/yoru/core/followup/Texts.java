package yoru.core.followup;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import yoru.core.access.Access;
import yoru.core.access.Ending;
import yoru.core.access.Words;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Terms;
import yoru.core.systems.Ability;
import yoru.core.systems.Landscape;

/** Fills in what a text leaves open; what depends on systems stays as it is. */
final class Texts {

    private static final Pattern NAME = Pattern.compile("\\{\\{\\s*([^{}\\s]+)\\s*}}");

    private final RulebookIndex index;
    private final Rulebook rulebook;
    private final Causes causes;
    private final Wording wording;

    Texts(RulebookIndex index, Causes causes, Wording wording) {
        this.index = index;
        this.rulebook = index.rulebook();
        this.causes = causes;
        this.wording = wording;
    }

    /** As rows say it: people by their keys where nothing else is said, and what only systems know left as it is. */
    String fill(String text, Run run, View view) {
        boolean called = wording.alsoInRows();
        return fill(text, name -> switch (name) {
            case "person.name" -> Optional.of(called ? wording.names().apply(run.person) : run.person);
            case "person.address" -> Optional.of(called ? wording.addresses().apply(run.person) : run.person);
            case "until" ->
                Optional.of(until(run, view).map(LocalDate::toString).orElse(""));
            default -> known(name, run);
        });
    }

    /** As people read it; only a code, which is not there yet, is left as it is. */
    String word(String text, Run run, View view) {
        return fill(text, name -> switch (name) {
            case "person.name" -> Optional.of(wording.names().apply(view.person()));
            case "person.address" -> Optional.of(wording.addresses().apply(view.person()));
            case "until" ->
                Optional.of(until(run, view)
                        .map(day -> Words.day(day.atStartOfDay()))
                        .orElse(""));
            case "signIn" -> Optional.of(signIn(run, view));
            default -> known(name, run);
        });
    }

    private Optional<String> known(String name, Run run) {
        return switch (name) {
            case "thing.title" -> Optional.of(title(run.occasion));
            case "order" ->
                Optional.of(Optional.ofNullable(run.occasion.orderOrNone()).orElse(""));
            default -> Optional.empty();
        };
    }

    private static String fill(String text, Function<String, Optional<String>> values) {
        return !text.contains("{{")
                ? text
                : NAME.matcher(text)
                        .replaceAll(found -> Matcher.quoteReplacement(
                                values.apply(found.group(1)).orElse(found.group())));
    }

    /** Where the thing is found; of what was bought, where something is that it opened. */
    private String signIn(Run run, View view) {
        var thing = Optional.ofNullable(run.occasion.targetOrNone());
        var opened = view.access().stream()
                .filter(one -> one.state().isOpen() && isFor(one, run.occasion))
                .map(Access::target);
        return Stream.concat(thing.stream(), opened)
                .flatMap(target -> wording.landscape().where(target).stream())
                .map(Landscape.Where::address)
                .findFirst()
                .or(() -> wording.landscape().able(Ability.ENROLMENT).stream()
                        .flatMap(system -> Stream.ofNullable(system.frontPageOrNone()))
                        .findFirst())
                .orElse("");
    }

    private static boolean isFor(Access access, Occasion occasion) {
        return access.entitlements().stream()
                .flatMap(one -> one.reason().bought().stream())
                .anyMatch(bought -> bought.order().id().equals(occasion.orderOrNone()));
    }

    String title(Occasion occasion) {
        if (occasion.productOrNone() != null) {
            return index.product(occasion.productOrNone()).map(Product::title).orElse(occasion.productOrNone());
        }
        return occasion.targetOrNone() == null ? "" : rulebook.title(occasion.targetOrNone());
    }

    /** The day on which what it is about ends, as known then; nothing where it does not, or is over. */
    private Optional<LocalDate> until(Run run, View view) {
        Optional<Instant> end = Optional.empty();
        if (run.occasion.subscriptionOrNone() != null) {
            end = causes.holding(run.occasion, view.histories())
                    .map(one -> one.end(Terms.DEFAULT))
                    .map(Ending::at)
                    .filter(at -> at.isAfter(view.now()));
        } else if (run.occasion.targetOrNone() != null) {
            end = view.window(run.occasion.targetOrNone()).map(Access::window).flatMap(window -> window.end());
        }
        return end.map(at -> LocalDate.ofInstant(at, rulebook.school().zone()));
    }
}
