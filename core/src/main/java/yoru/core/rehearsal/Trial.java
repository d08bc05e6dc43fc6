package yoru.core.rehearsal;

import java.time.Duration;
import java.time.LocalDateTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;

/** Makes the first story about a product, a level or a course: somebody new gets it, and time passes. */
public final class Trial {

    private static final Player SOMEBODY = new Player("visitor", "A new visitor", "visitor@story.invalid");
    private static final Period A_YEAR = Period.ofYears(1);
    private static final Period A_DAY = Period.ofDays(1);

    private final Rulebook rulebook;
    private final LocalDateTime starts;
    private final List<Scene> scenes = new ArrayList<>();

    private Trial(Rulebook rulebook, LocalDateTime starts) {
        this.rulebook = rulebook;
        this.starts = starts;
    }

    /** A product is bought, or subscribed to. Nothing where there is none. */
    public static Optional<Script> ofProduct(Rulebook rulebook, String id, LocalDateTime starts) {
        return rulebook.product(id).map(product -> new Trial(rulebook, starts).sold(product, null));
    }

    /** A level is had, and lost again. */
    public static Optional<Script> ofLevel(Rulebook rulebook, String id, LocalDateTime starts) {
        return rulebook.level(id).map(level -> {
            var trial = new Trial(rulebook, starts);
            trial.then(Period.ZERO, new Doing.Level(id, true));
            trial.then(A_YEAR, new Doing.Level(id, false));
            trial.then(A_DAY, new Doing.Nothing());
            return trial.script(level.title());
        });
    }

    /** The first product that opens it is bought; it is given where none does. */
    public static Optional<Script> ofCourse(Rulebook rulebook, String id, LocalDateTime starts) {
        return rulebook.course(id).map(course -> {
            var trial = new Trial(rulebook, starts);
            var index = new RulebookIndex(rulebook);
            return rulebook.links().stream()
                    .filter(link -> index.targets(link).contains(new Target.OfCourse(id)))
                    .flatMap(link -> trial.soldBy(link.from()).stream())
                    .findFirst()
                    .orElseGet(() -> {
                        trial.then(Period.ZERO, new Doing.IsGiven(List.of(Destination.whole(id)), null));
                        trial.then(A_YEAR, new Doing.Nothing());
                        return trial.script(course.title());
                    });
        });
    }

    private Optional<Script> soldBy(Source source) {
        return switch (source) {
            case Source.OfProduct it -> rulebook.product(it.product()).map(product -> sold(product, null));
            case Source.OfOption it ->
                rulebook.products().stream()
                        .filter(product -> product.hasOption(it.option()))
                        .findFirst()
                        .map(product -> sold(product, it.option()));
            case Source.OfCategory _, Source.OfLevel _, Source.OfTag _, Source.OfCompleted _ -> Optional.empty();
        };
    }

    private Script sold(Product product, @Nullable String wanted) {
        var option = wanted != null || product.options().isEmpty()
                ? wanted
                : product.options().stream().map(Option::id).findFirst().orElse(null);
        switch (product.billing()) {
            case Billing.Recurring it -> {
                then(Period.ZERO, new Doing.Subscribes(product.id(), option, null));
                then(it.every(), new Doing.Renews(null));
                then(A_DAY, new Doing.Resigns(null, true));
                then(A_YEAR, new Doing.Nothing());
            }
            case Billing.Instalments it -> {
                then(Period.ZERO, buys(product, option, Doing.Pays.IN_PARTS));
                for (int number = 2; number <= it.count(); number++) {
                    then(it.every(), new Doing.Part(true, null, null, number));
                }
                then(A_YEAR, new Doing.Nothing());
            }
            case Billing.Once _, Billing.Free _ -> {
                then(Period.ZERO, buys(product, option, Doing.Pays.NOW));
                then(A_YEAR, new Doing.Nothing());
                then(A_DAY, new Doing.Nothing());
            }
        }
        return script(product.title());
    }

    private static Doing buys(Product product, @Nullable String option, Doing.Pays pays) {
        return new Doing.Buys(List.of(new Doing.Item(product.id(), option, 1, null, null)), pays, Doing.As.NEW);
    }

    private void then(Period after, Doing doing) {
        scenes.add(new Scene(
                "steps[" + scenes.size() + "]",
                false,
                after.isZero() ? Cue.After.AT_ONCE : new Cue.After(after, Duration.ZERO),
                null,
                doing));
    }

    private Script script(String of) {
        return new Script("try", "Somebody new gets " + of, starts, List.of(SOMEBODY), scenes);
    }
}
