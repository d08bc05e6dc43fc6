package yoru.server.connectors.shop;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.core.systems.Ability;
import yoru.core.systems.Matter;
import yoru.server.connectors.Answers;
import yoru.server.connectors.Showing;
import yoru.server.systems.Connector;
import yoru.server.systems.Listed;
import yoru.server.systems.Listed.ItemKind;
import yoru.server.systems.Place;
import yoru.server.systems.Shown;
import yoru.server.systems.Statement;
import yoru.server.systems.SystemClient;
import yoru.server.systems.SystemClient.Question;
import yoru.server.systems.SystemKind;
import yoru.server.systems.Trouble;
import yoru.server.systems.TroubleException;

/** Reads what a shop sells; what happens there it reports by itself. */
@Component
class ShopConnector implements Connector {

    private final SystemClient client;
    private final JsonMapper json;
    private final Showing showing;

    ShopConnector(SystemClient client, JsonMapper json) {
        this.client = client;
        this.json = json;
        this.showing = new Showing(client, json, "/after");
    }

    @Override
    public SystemKind kind() {
        return SystemKind.SHOP;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(Ability.CATALOGUE, Ability.CHARGING, Ability.CODES, Ability.AFTER);
    }

    /** The same code again is answered the same. */
    @Override
    public String tell(Place place, Statement statement) {
        var reply = client.ask(place, question(statement).with(Map.of("Idempotency-Key", statement.key())));
        if (reply.status() == HttpStatus.NOT_FOUND.value()) {
            throw new TroubleException(Trouble.REFUSED, "makes no discount codes");
        }
        reply.orTrouble();
        return "code made";
    }

    @Override
    public String preview(Place place, Statement statement) {
        return question(statement).inWords(place);
    }

    private Question question(Statement statement) {
        if (!(statement.matter() instanceof Matter.Code)) {
            throw new IllegalArgumentException("a shop cannot be told about " + statement.matter());
        }
        var wanted = statement.content().orElseThrow();
        var body = json.createObjectNode().put("email", statement.person());
        wanted.path("terms").forEachEntry((name, value) -> {
            if (!value.isNull()) {
                body.set(name, value);
            }
        });
        return Question.put(body.toString(), "/codes/{code}", Answers.text(wanted, "code"));
    }

    @Override
    public String show(Place place, String path, @Nullable Shown shown, String key) {
        return showing.tell(place, path, shown, key);
    }

    @Override
    public Map<String, JsonNode> shown(Place place) {
        return showing.read(place);
    }

    @Override
    public List<Listed> catalogue(Place place) {
        var answer = read(place);
        var listed = new ArrayList<>(Answers.each(answer, "products", ShopConnector::product));
        var checkout = answer.path("checkout");
        if (checkout.isObject()) {
            var details = new Listed.CheckoutDetails(
                    checkout.path("guests").asBoolean(false),
                    checkout.path("password").asBoolean(true));
            listed.add(new Listed(ItemKind.CHECKOUT, "checkout", "Checkout", "", details));
        }
        return listed;
    }

    @Override
    public Sample sample(Place place) {
        return Answers.first(read(place), "products", "one product");
    }

    /** Not every shop keeps them: one that does not know the address has none. */
    @Override
    public List<Method> methods(Place place, String person) {
        var reply = client.ask(place, Question.get("/methods?email={email}", person));
        return reply.status() == HttpStatus.NOT_FOUND.value()
                ? List.of()
                : Answers.each(
                        reply.orTrouble().json(),
                        "methods",
                        method -> new Method(Answers.text(method, "id"), Answers.text(method, "label")));
    }

    @Override
    public Charged charge(Place place, Charge charge) {
        var asked = json.createObjectNode()
                .put("email", charge.person())
                .put("method", charge.method())
                .put("amount", charge.amount().toPlainString())
                .put("currency", charge.currency().getCurrencyCode())
                .put("about", charge.about());
        var reply = client.ask(
                place, Question.post(asked.toString(), "/charges").with(Map.of("Idempotency-Key", charge.key())));
        return reply.status() == HttpStatus.PAYMENT_REQUIRED.value()
                ? new Charged(false, Answers.text(reply.json(), "detail"))
                : new Charged(true, Answers.text(reply.orTrouble().json(), "id"));
    }

    private JsonNode read(Place place) {
        return client.ask(place, Question.get("/catalogue")).orTrouble().json();
    }

    private static Listed product(JsonNode node) {
        var details = new Listed.ProductDetails(
                price(node),
                Answers.text(node, "currency"),
                node.path("thing").asBoolean(false),
                node.path("about").stringValueOpt().orElse(null),
                node.path("seats").isBoolean() ? node.get("seats").booleanValue() : null,
                plan(node.path("plan")),
                node.path("options").isArray() ? Answers.each(node, "options", ShopConnector::option) : null,
                Answers.link(node, "basket"));
        return new Listed(
                ItemKind.PRODUCT,
                Answers.text(node, "id"),
                Answers.text(node, "title"),
                Answers.text(node, "category"),
                details);
    }

    private static Listed.SoldOption option(JsonNode node) {
        return new Listed.SoldOption(
                Answers.text(node, "id"),
                Answers.text(node, "title"),
                node.path("price").isString() ? price(node) : null,
                Answers.link(node, "basket"));
    }

    /** What it says of a plan is taken whole or not at all. */
    private static Listed.@Nullable Plan plan(JsonNode node) {
        if (!node.isObject()) {
            return null;
        }
        boolean inParts = node.path("kind").asString("").equals("instalments");
        int parts = node.path("count").asInt(0);
        if (inParts && parts < 1) {
            throw Answers.unreadable("a plan in no parts");
        }
        var plan = new Listed.Plan(
                inParts ? Integer.valueOf(parts) : null,
                Answers.text(node, "every"),
                node.path("grace").stringValueOpt().orElse(null),
                node.path("trial").stringValueOpt().orElse(null),
                node.path("cycles").isInt() ? Integer.valueOf(node.get("cycles").intValue()) : null);
        try {
            plan.billing();
        } catch (DateTimeException e) {
            throw Answers.unreadable("a plan whose period is none");
        }
        return plan;
    }

    private static BigDecimal price(JsonNode node) {
        try {
            return new BigDecimal(Answers.text(node, "price"));
        } catch (NumberFormatException e) {
            throw Answers.unreadable("a price that is no number");
        }
    }
}
