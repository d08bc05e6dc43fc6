package yoru.formats;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.Applies.Afterwards;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Door.Answer;
import yoru.core.rulebook.Door.Landing;
import yoru.core.rulebook.Door.OpenParts;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.NamedTerms;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Quantity;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Section;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Starts;
import yoru.core.rulebook.TagName;
import yoru.core.rulebook.Terms;
import yoru.core.rulebook.Thing;

/** Makes a rulebook of a document that has the form of one. What has the form and still means nothing is a fault. */
final class RulebookReader {

    private final List<Fault> faults;
    private final Map<String, Terms> namedTerms = new HashMap<>();

    RulebookReader(List<Fault> faults) {
        this.faults = faults;
    }

    Rulebook rulebook(JsonNode document) {
        var root = new Fields(document, "", faults);
        var named = root.objects(Sort.TERMS.many(), this::namedTerms);
        named.forEach(terms -> namedTerms.putIfAbsent(terms.id(), terms.terms()));
        Map<Sort, List<Thing>> things = new EnumMap<>(Sort.class);
        for (Sort sort : Sort.values()) {
            things.put(
                    sort,
                    sort == Sort.TERMS ? List.copyOf(named) : root.objects(sort.many(), thing -> thing(sort, thing)));
        }
        return new Rulebook(
                school(root.object("school")),
                things,
                root.objects("links", this::link),
                root.objects("followups", FollowupReader::read),
                root.objects("doors", RulebookReader::door));
    }

    private static Door door(Fields door) {
        return new Door(
                door.text("id"),
                answer(door, Side.VISITOR),
                answer(door, Side.WITHOUT),
                answer(door, Side.BOUGHT),
                door.has("signedIn") ? landing(door.object("signedIn")) : null,
                door.has("openParts") ? door.oneOf("openParts", OpenParts.class, OpenParts.AS_OTHERS) : null);
    }

    private static Landing landing(Fields landing) {
        return new Landing(!landing.has("wanted") || landing.flag("wanted"), landing.optionalText("to"));
    }

    private static @Nullable Answer answer(Fields door, Side side) {
        if (!door.has(side.key())) {
            return null;
        }
        var answer = door.object(side.key());
        if (answer.has("text")) {
            return new Answer.Says(answer.text("text"));
        }
        return answer.has("to") ? new Answer.SendsTo(answer.text("to")) : new Answer.SendsOn();
    }

    private Thing thing(Sort sort, Fields thing) {
        return switch (sort) {
            case COURSE -> course(thing);
            case PRODUCT -> product(thing);
            case LEVEL -> level(thing);
            case TAG, GROUP, AREA, DOWNLOAD, LIST -> new Named(thing.text("id"), title(thing));
            case TERMS -> namedTerms(thing);
        };
    }

    Terms terms(Fields terms) {
        var length = terms.optionalText("length");
        return new Terms(
                terms.has("starts") ? starts(terms.object("starts")) : new Starts.AtOnce(),
                length == null || length.equals("held")
                        ? new Length.Held()
                        : new Length.Lasting(terms.period("length")),
                terms.has("until") ? terms.local("until") : null,
                terms.oneOf("repeat", Terms.Repeat.class, Terms.Repeat.OVERLAP),
                terms.oneOf("refund", Terms.OnRefund.class, Terms.OnRefund.END),
                terms.share("refundShare"));
    }

    private static School school(Fields school) {
        return new School(
                zone(school),
                FactReader.currency(school, "currency"),
                school.texts("tiers"),
                school.oneOf("opensOn", OpensOn.class, OpensOn.PAID),
                school.objects("ladders", ladder -> new Ladder(ladder.text("id"), ladder.flag("higherIncludesLower"))),
                school.objects(
                        "tagNames",
                        name -> new TagName(
                                name.oneOf("role", TagName.Role.class, TagName.Role.BOUGHT), name.text("name"))));
    }

    private static ZoneId zone(Fields school) {
        var id = school.text("zone");
        try {
            if (!id.isEmpty()) {
                return ZoneId.of(id);
            }
        } catch (DateTimeException e) {
            school.fault(
                    "zone",
                    "no time zone `" + id + "`" + Nearest.to(id, ZoneId.getAvailableZoneIds())
                            + "; allowed: IANA names such as Europe/Dublin");
        }
        return ZoneId.of("UTC");
    }

    private static Course course(Fields course) {
        return new Course(
                course.text("id"),
                title(course),
                course.texts("categories"),
                course.flag("premium"),
                course.objects(
                        "sections",
                        section -> new Section(section.text("id"), title(section), section.optionalText("tier"))));
    }

    private Product product(Fields product) {
        return new Product(
                product.text("id"),
                title(product),
                product.texts("categories"),
                product.objects("options", option -> new Option(option.text("id"), title(option))),
                product.has("opensOn") ? product.oneOf("opensOn", OpensOn.class, null) : null,
                product.has("billing") ? billing(product.object("billing")) : new Billing.Once(),
                product.oneOf("quantity", Quantity.class, Quantity.ONCE));
    }

    private static Billing billing(Fields billing) {
        return switch (billing.text("kind")) {
            case "free" -> new Billing.Free();
            case "instalments" ->
                new Billing.Instalments(
                        billing.number("count"), billing.period("every"), billing.periodOrZero("grace"));
            case "recurring" ->
                new Billing.Recurring(
                        billing.period("every"),
                        billing.periodOrZero("grace"),
                        billing.periodOrZero("trialGrace"),
                        billing.optionalNumber("cycles"),
                        "keep".equals(billing.optionalText("afterLast")));
            default -> new Billing.Once();
        };
    }

    private Level level(Fields level) {
        return new Level(
                level.text("id"),
                title(level),
                level.optionalText("ladder"),
                level.number("rank"),
                level.has("allowance") ? allowance(level.object("allowance")) : null);
    }

    private static Allowance allowance(Fields allowance) {
        return new Allowance(
                allowance.number("courses"),
                allowance.optionalNumber("premium"),
                allowance.texts("categories"),
                allowance.texts("except"));
    }

    /** What has no title is called by its id. */
    private static String title(Fields thing) {
        return Objects.requireNonNullElseGet(thing.optionalText("title"), () -> thing.text("id"));
    }

    private NamedTerms namedTerms(Fields named) {
        return new NamedTerms(named.text("id"), title(named), terms(named.object("terms")));
    }

    private Link link(Fields link) {
        var name = link.optionalText("named");
        return new Link(
                link.text("id"),
                source(link.object("from")),
                link.objects("to", Destinations::read),
                link.has("terms")
                        ? terms(link.object("terms"))
                        : name == null ? Terms.DEFAULT : namedTerms.getOrDefault(name, Terms.DEFAULT),
                link.has("applies") ? applies(link.object("applies")) : Applies.ALWAYS,
                name);
    }

    private static Source source(Fields from) {
        if (from.has("product")) {
            return new Source.OfProduct(from.text("product"));
        }
        if (from.has("option")) {
            return new Source.OfOption(from.text("option"));
        }
        if (from.has("category")) {
            return new Source.OfCategory(from.text("category"));
        }
        if (from.has("level")) {
            return new Source.OfLevel(from.text("level"));
        }
        if (from.has("tag")) {
            return new Source.OfTag(from.text("tag"));
        }
        return new Source.OfCompleted(from.text("completed"));
    }

    private static Starts starts(Fields starts) {
        if (starts.has("after")) {
            return new Starts.After(starts.period("after"));
        }
        return starts.has("at") ? new Starts.At(starts.local("at")) : new Starts.AtOnce();
    }

    private static Applies applies(Fields applies) {
        return new Applies(
                applies.optionalInstant("from"),
                applies.optionalInstant("until"),
                applies.oneOf("afterwards", Afterwards.class, Afterwards.RUN_OUT));
    }
}
