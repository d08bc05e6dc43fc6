package yoru.core.followup;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yoru.core.access.Access;
import yoru.core.access.Ending;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Terms;

/** Fills in what a text leaves open; what depends on systems stays as it is. */
final class Texts {

    private static final Pattern NAME = Pattern.compile("\\{\\{\\s*([^{}\\s]+)\\s*}}");

    private final Rulebook rulebook;
    private final Causes causes;

    Texts(Rulebook rulebook, Causes causes) {
        this.rulebook = rulebook;
        this.causes = causes;
    }

    String fill(String text, Run run, View view) {
        return NAME.matcher(text)
                .replaceAll(found -> Matcher.quoteReplacement(
                        switch (found.group(1)) {
                            case "person.name", "person.address" -> run.person;
                            case "thing.title" -> title(run.occasion);
                            case "order" ->
                                Optional.ofNullable(run.occasion.orderOrNone()).orElse("");
                            case "until" -> until(run, view);
                            default -> found.group();
                        }));
    }

    private String title(Occasion occasion) {
        if (occasion.productOrNone() != null) {
            return rulebook.titleOfProduct(occasion.productOrNone());
        }
        return occasion.targetOrNone() == null ? "" : rulebook.title(occasion.targetOrNone());
    }

    /** The day on which what it is about ends, as known then; nothing where it does not, or is over. */
    private String until(Run run, View view) {
        Optional<Instant> end = Optional.empty();
        if (run.occasion.subscriptionOrNone() != null) {
            end = causes.holding(run.occasion, view.histories())
                    .map(one -> one.end(Terms.DEFAULT))
                    .map(Ending::at)
                    .filter(at -> at.isAfter(view.now()));
        } else if (run.occasion.targetOrNone() != null) {
            end = view.window(run.occasion.targetOrNone()).map(Access::window).flatMap(window -> window.end());
        }
        return end.map(at -> LocalDate.ofInstant(at, rulebook.school().zone()).toString())
                .orElse("");
    }
}
