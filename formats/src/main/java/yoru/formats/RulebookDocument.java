package yoru.formats;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.dataformat.yaml.YAMLMapper;
import yoru.core.rulebook.Billing;
import yoru.core.rulebook.Course;
import yoru.core.rulebook.Length;
import yoru.core.rulebook.Link;
import yoru.core.rulebook.OpensOn;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.School;
import yoru.core.rulebook.Source;
import yoru.core.rulebook.Target;
import yoru.core.rulebook.Terms;

/** The rulebook as a document, {@code yoru: rulebook/1}, in YAML or JSON. */
public final class RulebookDocument {

    private static final YAMLMapper YAML = YAMLMapper.builder().build();
    private static final String FORMAT = "rulebook/1";

    /** @throws UnreadableException naming the place of every fault */
    public static Rulebook read(String document) {
        try {
            return read(YAML.readTree(document));
        } catch (JacksonException e) {
            throw new UnreadableException(List.of(new Fault("", "not YAML or JSON: " + e.getOriginalMessage())));
        }
    }

    /** @throws UnreadableException naming the place of every fault */
    public static Rulebook read(JsonNode document) {
        var faults = new ArrayList<Fault>();
        var root = new Fields(document, "", faults);
        root.allow(Set.of("yoru", "school", "courses", "products", "links"));
        if (!root.text("yoru").equals(FORMAT)) {
            root.fault("yoru", "must be " + FORMAT);
        }
        var school = school(root.object("school"));
        var courses = root.objects("courses", RulebookDocument::course);
        var products = root.objects("products", RulebookDocument::product);
        var links = root.objects("links", RulebookDocument::link);
        var ids = new Ids(root);
        var courseIds = ids.unique("courses", courses, Course::id);
        var productIds = ids.unique("products", products, Product::id);
        ids.unique("links", links, Link::id);
        for (int at = 0; at < links.size(); at++) {
            known(root, links.get(at), "links[" + at + "]", productIds, courseIds);
        }
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return new Rulebook(school, courses, products, links);
    }

    /** The same document as JSON; defaults are left out. */
    public static ObjectNode write(Rulebook rulebook) {
        var root = JsonNodeFactory.instance.objectNode();
        root.put("yoru", FORMAT);
        var school = root.putObject("school");
        school.put("zone", rulebook.school().zone().getId());
        school.put("currency", rulebook.school().currency().getCurrencyCode());
        school.put("opensOn", Fields.word(rulebook.school().opensOn()));
        var courses = root.putArray("courses");
        for (Course course : rulebook.courses()) {
            var node = courses.addObject().put("id", course.id()).put("title", course.title());
            texts(node, "categories", course.categories());
        }
        var products = root.putArray("products");
        for (Product product : rulebook.products()) {
            write(product, products.addObject());
        }
        var links = root.putArray("links");
        rulebook.links().forEach(link -> write(link, links.addObject()));
        return root;
    }

    public static String yaml(Rulebook rulebook) {
        return YAML.writeValueAsString(write(rulebook));
    }

    /** Terms alone, as in a link. */
    public static Terms terms(JsonNode node) {
        var faults = new ArrayList<Fault>();
        var terms = terms(new Fields(node, "terms", faults));
        if (!faults.isEmpty()) {
            throw new UnreadableException(faults);
        }
        return terms;
    }

    public static ObjectNode write(Terms terms) {
        var node = JsonNodeFactory.instance.objectNode();
        switch (terms.length()) {
            case Length.Held _ -> node.put("length", "held");
            case Length.Lasting lasting -> node.put("length", lasting.period().toString());
        }
        node.put("refund", Fields.word(terms.refund()));
        if (terms.refundShare().compareTo(BigDecimal.ONE) != 0) {
            node.put("refundShare", terms.refundShare());
        }
        return node;
    }

    private static void write(Product product, ObjectNode node) {
        node.put("id", product.id()).put("title", product.title());
        texts(node, "categories", product.categories());
        product.opensOn().ifPresent(moment -> node.put("opensOn", Fields.word(moment)));
        node.putObject("billing").put("kind", Fields.word(product.billing()));
    }

    private static void write(Link link, ObjectNode node) {
        node.put("id", link.id());
        switch (link.from()) {
            case Source.OfProduct from -> node.putObject("from").put("product", from.product());
        }
        var to = node.putArray("to");
        for (Target target : link.to()) {
            switch (target) {
                case Target.OfCourse it -> to.addObject().put("course", it.course());
            }
        }
        node.set("terms", write(link.terms()));
    }

    private static void texts(ObjectNode node, String key, List<String> values) {
        if (!values.isEmpty()) {
            ArrayNode array = node.putArray(key);
            values.forEach(array::add);
        }
    }

    private static School school(Fields school) {
        school.allow(Set.of("zone", "currency", "opensOn"));
        return new School(
                zone(school),
                FactReader.currency(school, "currency"),
                school.oneOf("opensOn", OpensOn.class, OpensOn.PAID));
    }

    private static ZoneId zone(Fields school) {
        var id = school.text("zone");
        try {
            if (!id.isEmpty()) {
                return ZoneId.of(id);
            }
        } catch (DateTimeException e) {
            school.fault("zone", "no time zone \"" + id + "\"; allowed: IANA names such as Europe/Dublin");
        }
        return ZoneId.of("UTC");
    }

    private static Course course(Fields course) {
        course.allow(Set.of("id", "title", "categories"));
        return new Course(course.text("id"), course.text("title"), course.texts("categories"));
    }

    private static Product product(Fields product) {
        product.allow(Set.of("id", "title", "categories", "opensOn", "billing"));
        var billing = Billing.ONCE;
        if (product.has("billing")) {
            var node = product.object("billing");
            node.allow(Set.of("kind"));
            billing = node.oneOf("kind", Billing.class, null);
        }
        var opensOn = product.has("opensOn") ? product.oneOf("opensOn", OpensOn.class, null) : null;
        return new Product(product.text("id"), product.text("title"), product.texts("categories"), opensOn, billing);
    }

    private static Link link(Fields link) {
        link.allow(Set.of("id", "from", "to", "terms"));
        var from = link.object("from");
        from.allow(Set.of("product"));
        var to = link.objects("to", target -> {
            target.allow(Set.of("course"));
            return (Target) new Target.OfCourse(target.text("course"));
        });
        if (to.isEmpty()) {
            link.fault("to", "must name at least one target");
        }
        var terms = link.has("terms") ? terms(link.object("terms")) : Terms.DEFAULT;
        return new Link(link.text("id"), new Source.OfProduct(from.text("product")), to, terms);
    }

    private static Terms terms(Fields terms) {
        terms.allow(Set.of("length", "refund", "refundShare", "repeat"));
        var held = !terms.has("length") || "held".equals(terms.optionalText("length"));
        terms.oneOf("repeat", Repeat.class, Repeat.OVERLAP);
        return new Terms(
                held ? new Length.Held() : new Length.Lasting(terms.period("length")),
                terms.oneOf("refund", Terms.OnRefund.class, Terms.OnRefund.END),
                terms.share("refundShare"));
    }

    /** What a repeat purchase does; overlapping is all that is built. */
    private enum Repeat {
        OVERLAP
    }

    private static void known(Fields root, Link link, String place, Set<String> products, Set<String> courses) {
        switch (link.from()) {
            case Source.OfProduct from -> {
                if (!products.contains(from.product())) {
                    root.fault(place + ".from.product", "no product `" + from.product() + "`");
                }
            }
        }
        for (int at = 0; at < link.to().size(); at++) {
            switch (link.to().get(at)) {
                case Target.OfCourse it -> {
                    if (!courses.contains(it.course())) {
                        root.fault(place + ".to[" + at + "].course", "no course `" + it.course() + "`");
                    }
                }
            }
        }
    }

    /** Looks for ids that stand twice. */
    private record Ids(Fields root) {
        <T> Set<String> unique(String key, List<T> things, Function<T, String> idOf) {
            Set<String> seen = new HashSet<>();
            for (int at = 0; at < things.size(); at++) {
                String id = idOf.apply(things.get(at));
                if (!seen.add(id)) {
                    root.fault(key + "[" + at + "].id", "`" + id + "` stands twice");
                }
            }
            return seen;
        }
    }

    private RulebookDocument() {}
}
