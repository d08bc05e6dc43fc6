package yoru.formats;

import java.math.BigDecimal;
import java.time.Period;
import java.util.List;
import java.util.function.BiConsumer;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import yoru.core.rulebook.Allowance;
import yoru.core.rulebook.Applies;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Destination;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Ladder;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Level;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.Named;
import yoru.core.rulebook.NamedTerms;
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

/** Writes a rulebook as a document, in a stable order and without what is the default anyway. */
final class RulebookWriter {

    private RulebookWriter() {}

    static ObjectNode write(Rulebook rulebook) {
        var root = JsonNodeFactory.instance.objectNode();
        root.put("yoru", RulebookDocument.FORMAT);
        school(rulebook.school(), root.putObject("school"));
        for (Sort sort : Sort.values()) {
            all(root, sort.many(), rulebook.all(sort), RulebookWriter::thing);
        }
        all(root, "links", rulebook.links(), RulebookWriter::link);
        all(root, "followups", rulebook.followups(), FollowupWriter::write);
        all(root, "doors", rulebook.doors(), RulebookWriter::door);
        return root;
    }

    private static void door(Door door, ObjectNode node) {
        node.put("id", door.place());
        for (Door.Side side : Door.Side.values()) {
            side.of(door).ifPresent(answer -> answer(answer, node.putObject(side.key())));
        }
        if (door.signedIn() != null) {
            var landing =
                    node.putObject("signedIn").put("wanted", door.signedIn().wantedFirst());
            door.signedIn().page().ifPresent(page -> landing.put("to", page));
        }
        if (door.parts() != null) {
            node.put("openParts", Fields.word(door.parts()));
        }
    }

    private static void answer(Door.Answer answer, ObjectNode node) {
        switch (answer) {
            case Door.Answer.Says it -> node.put("text", it.text());
            case Door.Answer.SendsTo it -> node.put("to", it.address());
            case Door.Answer.SendsOn _ -> node.put("on", true);
        }
    }

    static ObjectNode write(Terms terms) {
        var node = JsonNodeFactory.instance.objectNode();
        switch (terms.starts()) {
            case Starts.AtOnce _ -> {}
            case Starts.After it ->
                node.putObject("starts").put("after", it.period().toString());
            case Starts.At it -> node.putObject("starts").put("at", it.date().toString());
        }
        switch (terms.length()) {
            case Length.Held _ -> node.put("length", "held");
            case Length.Lasting lasting -> node.put("length", lasting.period().toString());
        }
        terms.until().ifPresent(cap -> node.put("until", cap.toString()));
        if (terms.repeat() != Terms.Repeat.OVERLAP) {
            node.put("repeat", Fields.word(terms.repeat()));
        }
        node.put("refund", Fields.word(terms.refund()));
        if (terms.refundShare().compareTo(BigDecimal.ONE) != 0) {
            node.put("refundShare", terms.refundShare());
        }
        return node;
    }

    static void texts(ObjectNode node, String key, List<String> values) {
        if (!values.isEmpty()) {
            ArrayNode array = node.putArray(key);
            values.forEach(array::add);
        }
    }

    private static <T> void all(ObjectNode node, String key, List<T> things, BiConsumer<T, ObjectNode> write) {
        if (!things.isEmpty()) {
            var array = node.putArray(key);
            things.forEach(thing -> write.accept(thing, array.addObject()));
        }
    }

    private static void thing(Thing thing, ObjectNode node) {
        named(thing.id(), thing.title(), node);
        switch (thing) {
            case Course it -> course(it, node);
            case Product it -> product(it, node);
            case Level it -> level(it, node);
            case NamedTerms it -> node.set("terms", write(it.terms()));
            case Named _ -> {}
        }
    }

    private static void school(School school, ObjectNode node) {
        node.put("zone", school.zone().getId());
        node.put("currency", school.currency().getCurrencyCode());
        texts(node, "tiers", school.tiers());
        node.put("opensOn", Fields.word(school.opensOn()));
        all(node, "ladders", school.ladders(), RulebookWriter::ladder);
        all(node, "tagNames", school.tagNames(), RulebookWriter::tagName);
    }

    private static void tagName(TagName name, ObjectNode node) {
        node.put("role", Fields.word(name.role())).put("name", name.pattern());
    }

    private static void ladder(Ladder ladder, ObjectNode node) {
        node.put("id", ladder.id());
        flag(node, "higherIncludesLower", ladder.higherIncludesLower());
    }

    private static void course(Course course, ObjectNode node) {
        texts(node, "categories", course.categories());
        flag(node, "premium", course.premium());
        all(node, "sections", course.sections(), RulebookWriter::section);
    }

    private static void section(Section section, ObjectNode node) {
        named(section.id(), section.title(), node);
        section.tier().ifPresent(tier -> node.put("tier", tier));
    }

    private static void product(Product product, ObjectNode node) {
        texts(node, "categories", product.categories());
        all(node, "options", product.options(), RulebookWriter::option);
        product.opensOn().ifPresent(moment -> node.put("opensOn", Fields.word(moment)));
        billing(product.billing(), node.putObject("billing"));
        if (product.quantity() != Quantity.ONCE) {
            node.put("quantity", Fields.word(product.quantity()));
        }
    }

    private static void option(Option option, ObjectNode node) {
        named(option.id(), option.title(), node);
    }

    private static void billing(Billing billing, ObjectNode node) {
        switch (billing) {
            case Billing.Once _ -> node.put("kind", "once");
            case Billing.Free _ -> node.put("kind", "free");
            case Billing.Instalments it -> {
                node.put("kind", "instalments").put("count", it.count());
                node.put("every", it.every().toString());
                period(node, "grace", it.grace());
            }
            case Billing.Recurring it -> {
                node.put("kind", "recurring").put("every", it.every().toString());
                period(node, "grace", it.grace());
                period(node, "trialGrace", it.trialGrace());
                it.cycles().ifPresent(cycles -> node.put("cycles", cycles));
                if (it.keepAfterLast()) {
                    node.put("afterLast", "keep");
                }
            }
        }
    }

    private static void level(Level level, ObjectNode node) {
        level.ladder().ifPresent(ladder -> node.put("ladder", ladder));
        if (level.ladder().isPresent() || level.rank() != 0) {
            node.put("rank", level.rank());
        }
        level.allowance().ifPresent(allowance -> allowance(allowance, node.putObject("allowance")));
    }

    private static void allowance(Allowance allowance, ObjectNode node) {
        node.put("courses", allowance.courses());
        allowance.premium().ifPresent(premium -> node.put("premium", premium));
        texts(node, "categories", allowance.categories());
        texts(node, "except", allowance.except());
    }

    static void named(String id, String title, ObjectNode node) {
        node.put("id", id);
        if (!title.equals(id)) {
            node.put("title", title);
        }
    }

    private static void link(Link link, ObjectNode node) {
        node.put("id", link.id());
        source(link.from(), node.putObject("from"));
        var to = node.putArray("to");
        for (Destination destination : link.to()) {
            Destinations.write(destination, to.addObject());
        }
        link.termsName().ifPresentOrElse(name -> node.put("named", name), () -> node.set("terms", write(link.terms())));
        if (!link.applies().equals(Applies.ALWAYS)) {
            applies(link.applies(), node.putObject("applies"));
        }
    }

    private static void source(Source source, ObjectNode node) {
        switch (source) {
            case Source.OfProduct it -> node.put("product", it.product());
            case Source.OfOption it -> node.put("option", it.option());
            case Source.OfCategory it -> node.put("category", it.category());
            case Source.OfLevel it -> node.put("level", it.level());
            case Source.OfTag it -> node.put("tag", it.tag());
            case Source.OfCompleted it -> node.put("completed", it.course());
        }
    }

    private static void applies(Applies applies, ObjectNode node) {
        applies.from().ifPresent(from -> node.put("from", from.toString()));
        applies.until().ifPresent(until -> node.put("until", until.toString()));
        if (applies.until().isPresent() || applies.afterwards() != Applies.Afterwards.RUN_OUT) {
            node.put("afterwards", Fields.word(applies.afterwards()));
        }
    }

    private static void flag(ObjectNode node, String key, boolean value) {
        if (value) {
            node.put(key, true);
        }
    }

    private static void period(ObjectNode node, String key, Period period) {
        if (!period.isZero()) {
            node.put(key, period.toString());
        }
    }
}
