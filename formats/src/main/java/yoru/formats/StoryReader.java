package yoru.formats;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.Period;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import yoru.core.rehearsal.Doing;
import yoru.core.rehearsal.Expectation;
import yoru.core.rehearsal.Expectation.End;
import yoru.core.rehearsal.Script;
import yoru.core.rehearsal.Script.Cue;
import yoru.core.rehearsal.Script.Player;
import yoru.core.rehearsal.Script.Scene;
import yoru.core.rulebook.Target;

/** Reads a story whose form was seen to be right. */
final class StoryReader {

    private static final List<String> TURNS = List.of("pays", "fulfils", "cancels");
    private static final List<String> STUDIES = List.of("finishes", "chooses", "returns");
    private static final String NOWHERE = ".invalid";

    private StoryReader() {}

    static Script script(Fields document) {
        var id = document.text("id");
        var title = Objects.requireNonNullElse(document.optionalText("title"), id);
        var scenes = new ArrayList<Scene>();
        scenes.addAll(document.objects("before", step -> scene(step, true)));
        scenes.addAll(document.objects("steps", step -> scene(step, false)));
        return new Script(id, title, document.local("starts"), document.objects("people", StoryReader::player), scenes);
    }

    /** Without an address one that leads nowhere (RFC 2606). */
    private static Player player(Fields person) {
        var id = person.text("id");
        return new Player(
                id,
                Objects.requireNonNullElse(person.optionalText("name"), id),
                Objects.requireNonNullElse(person.optionalText("address"), id + "@story" + NOWHERE));
    }

    private static Scene scene(Fields step, boolean isBefore) {
        return new Scene(step.path(), isBefore, cue(step), step.optionalText("who"), doing(step));
    }

    private static Cue cue(Fields step) {
        if (step.has("at")) {
            return new Cue.At(step.local("at"));
        }
        if (step.has("on")) {
            return new Cue.At(step.local("on"));
        }
        return step.has("after") ? after(step) : Cue.After.AT_ONCE;
    }

    private static Cue after(Fields step) {
        var text = step.text("after");
        int time = text.indexOf('T');
        try {
            return new Cue.After(
                    time == 1 ? Period.ZERO : Period.parse(time < 0 ? text : text.substring(0, time)),
                    time < 0 ? Duration.ZERO : Duration.parse("P" + text.substring(time)));
        } catch (DateTimeException e) {
            step.fault("after", "must be an ISO 8601 period such as P6M, P1D or PT10M");
            return Cue.After.AT_ONCE;
        }
    }

    private static Doing doing(Fields step) {
        for (String word : TURNS) {
            if (step.has(word)) {
                return new Doing.Turns(
                        Doing.Turn.valueOf(word.toUpperCase(Locale.ROOT)), number(step.object(word), "order"));
            }
        }
        for (String word : STUDIES) {
            if (step.has(word)) {
                return new Doing.Studies(
                        Doing.Study.valueOf(word.toUpperCase(Locale.ROOT)),
                        step.object(word).text("course"));
            }
        }
        for (String word : step.keys()) {
            switch (word) {
                case "buys" -> {
                    return buys(step.object(word));
                }
                case "refunds" -> {
                    return refunds(step.object(word));
                }
                case "pays-part", "fails-part" -> {
                    var part = step.object(word);
                    return new Doing.Part(
                            word.equals("pays-part"),
                            number(part, "order"),
                            number(part, "line"),
                            part.count("number"));
                }
                case "claims" -> {
                    var seat = step.object(word);
                    return new Doing.Claims(number(seat, "order"), number(seat, "line"), number(seat, "seat"));
                }
                case "subscribes" -> {
                    var product = step.object(word);
                    return new Doing.Subscribes(
                            product.text("product"), product.optionalText("option"), product.optionalPeriod("trial"));
                }
                case "renews" -> {
                    return new Doing.Renews(number(step.object(word), "subscription"));
                }
                case "fails" -> {
                    return new Doing.Fails(number(step.object(word), "subscription"));
                }
                case "resigns" -> {
                    var subscription = step.object(word);
                    return new Doing.Resigns(
                            number(subscription, "subscription"), !"now".equals(subscription.optionalText("at")));
                }
                case "gets-level", "loses-level" -> {
                    return new Doing.Level(step.object(word).text("level"), word.startsWith("gets"));
                }
                case "gets-tag", "loses-tag" -> {
                    return new Doing.Tag(step.object(word).text("tag"), word.startsWith("gets"));
                }
                case "is-given" -> {
                    var grant = step.object(word);
                    return new Doing.IsGiven(grant.objects("to", Destinations::read), grant.optionalPeriod("length"));
                }
                case "is-ended" -> {
                    return new Doing.IsEnded(number(step.object(word), "grant"));
                }
                case "joins" -> {
                    return new Doing.Joins(step.object(word).text("person"));
                }
                case "let-in" -> {
                    return new Doing.LetIn(number(step.object(word), "order"));
                }
                case "expect" -> {
                    return new Doing.Expects(expectation(step.object(word)));
                }
                default -> {} // when and who
            }
        }
        return new Doing.Nothing();
    }

    private static Doing buys(Fields buys) {
        return new Doing.Buys(
                buys.objects("lines", StoryReader::item),
                buys.oneOf("pays", Doing.Pays.class, Doing.Pays.NOW),
                buys.oneOf("as", Doing.As.class, Doing.As.NEW));
    }

    private static Doing.Item item(Fields line) {
        return new Doing.Item(
                line.text("product"),
                line.optionalText("option"),
                line.wholeNumber("quantity", 1),
                line.optionalAmount("amount"),
                line.optionalText("giftTo"));
    }

    private static Doing refunds(Fields refunds) {
        return refunds.has("subscription")
                ? new Doing.RefundsSubscription(refunds.count("subscription"))
                : new Doing.Refunds(
                        number(refunds, "order"), number(refunds, "line"), refunds.optionalAmount("amount"));
    }

    private static @Nullable Integer number(Fields fields, String key) {
        return fields.has(key) ? Integer.valueOf(fields.wholeNumber(key, 1)) : null;
    }

    private static Expectation expectation(Fields expected) {
        return new Expectation(
                expected.optionalText("who"),
                targets(expected, "open"),
                targets(expected, "closed"),
                until(expected),
                expected.has("exactly") ? targets(expected, "exactly") : null,
                expected.texts("done"),
                expected.texts("not-done"),
                told(expected));
    }

    private static List<Target> targets(Fields fields, String key) {
        var targets = new ArrayList<Target>();
        var paths = fields.texts(key);
        for (int at = 0; at < paths.size(); at++) {
            var target = target(fields, key + "[" + at + "]", paths.get(at));
            if (target != null) {
                targets.add(target);
            }
        }
        return targets;
    }

    private static @Nullable Target target(Fields fields, String key, String path) {
        try {
            return Target.read(path);
        } catch (IllegalArgumentException e) {
            fields.fault(key, "must be a target such as course/queen-rearing or section/queen-rearing/grafting");
            return null;
        }
    }

    private static Map<Target, End> until(Fields expected) {
        Map<Target, End> until = new LinkedHashMap<>();
        if (expected.has("until")) {
            var ends = expected.object("until");
            for (String path : ends.keys()) {
                var target = target(expected, "until." + path, path);
                if (target != null) {
                    until.put(target, end(ends, path));
                }
            }
        }
        return until;
    }

    private static End end(Fields ends, String path) {
        var text = ends.anyText(path);
        if (text.equals("never")) {
            return new End.Never();
        }
        try {
            return text.contains("T")
                    ? new End.AtTime(LocalDateTime.parse(text))
                    : new End.OnDay(LocalDate.parse(text));
        } catch (DateTimeException e) {
            ends.fault(path, "must be a day such as 2027-03-02, a local date and time, or never");
            return new End.Never();
        }
    }

    private static Map<String, Expectation.Held> told(Fields expected) {
        Map<String, Expectation.Held> told = new LinkedHashMap<>();
        if (expected.has("told")) {
            var systems = expected.object("told");
            for (String system : systems.keys()) {
                var held = systems.object(system);
                told.put(system, new Expectation.Held(targets(held, "open"), targets(held, "closed")));
            }
        }
        return told;
    }
}
