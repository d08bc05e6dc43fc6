package yoru.standins.shop;

import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import yoru.standins.practice.Showings;

/** What a buyer reads once they have ordered, as the shop was told. */
@Component
@Profile("shop")
class AfterBuying {

    private static final String HMAC = "HmacSHA256";

    private final Showings showings;
    private final ShopSettings settings;

    AfterBuying(Showings showings, ShopSettings settings) {
        this.showings = showings;
        this.settings = settings;
    }

    /** @param label of its button; empty = it has none */
    record Note(String html, String label, String address) {}

    /** Where the buyer goes at once; nothing = to the order. Of several products the page that lists them is shown. */
    Optional<String> sendsTo(ShopOrder order) {
        var says = says(order);
        var products =
                order.lines().stream().map(ShopOrder.Line::product).distinct().count();
        return says.stream()
                .map(one -> products > 1 || one.path("list").asBoolean(false)
                        ? page(one, order)
                        : one.path("to").asString(""))
                .filter(to -> !to.isEmpty())
                .findFirst();
    }

    List<Note> notes(ShopOrder order) {
        return says(order).stream()
                .filter(one -> one.has("html"))
                .map(one -> new Note(
                        one.path("html").asString(""),
                        one.path("button").path("label").asString(""),
                        one.path("button").path("address").asString("")))
                .distinct()
                .toList();
    }

    /** The page that lists everything of an order; nothing = there is none. */
    Optional<String> page(ShopOrder order) {
        return says(order).stream()
                .map(one -> page(one, order))
                .filter(page -> !page.isEmpty())
                .findFirst();
    }

    private List<JsonNode> says(ShopOrder order) {
        return order.lines().stream()
                .flatMap(line -> Optional.ofNullable(line.option())
                        .flatMap(option -> showings.of("option/" + option))
                        .or(() -> showings.of("product/" + line.product()))
                        .stream())
                .toList();
    }

    private String page(JsonNode says, ShopOrder order) {
        return says.path("page").asString("").replace("{code}", code(order.id()));
    }

    /** The order's id, and what only the shop and whoever it reports to can make of it. */
    private String code(String order) {
        try {
            var mac = Mac.getInstance(HMAC);
            mac.init(new SecretKeySpec(settings.secret().getBytes(StandardCharsets.UTF_8), HMAC));
            var signed = mac.doFinal(("thanks " + order).getBytes(StandardCharsets.UTF_8));
            return order + "." + Base64.getUrlEncoder().withoutPadding().encodeToString(signed);
        } catch (NoSuchAlgorithmException | InvalidKeyException e) {
            throw new IllegalStateException(e);
        }
    }
}
