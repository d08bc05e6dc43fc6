package yoru.standins.shop;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads what a keeper typed of a new product; says in words what is wrong with it. */
final class NewProduct {

    private NewProduct() {}

    static Product read(Map<String, String> form) {
        var id = code(text(form, "id"));
        var plan = text(form, "plan");
        var many = number(text(form, "many"));
        var trial = number(text(form, "trial"));
        boolean again = plan.startsWith("P");
        return new Product(
                id,
                filled(text(form, "title"), "It needs a name."),
                filled(text(form, "category"), "It needs a category."),
                price(text(form, "price")),
                form.containsKey("thing"),
                text(form, "about"),
                again ? plan : null,
                plan.equals("parts") ? parts(many) : null,
                again && trial != null ? "P" + trial + "D" : null,
                again ? many : null,
                form.containsKey("seats"),
                options(id, text(form, "options")));
    }

    private static List<Product.Option> options(String product, String text) {
        var options = new ArrayList<Product.Option>();
        for (String line : text.lines().filter(it -> !it.isBlank()).toList()) {
            var parts = line.split(";", -1);
            if (parts.length != 3) {
                throw new IllegalArgumentException("An option is a code, a name and a price, parted by semicolons.");
            }
            options.add(new Product.Option(
                    code(parts[0].strip()),
                    product,
                    filled(parts[1].strip(), "An option needs a name."),
                    price(parts[2].strip())));
        }
        return options;
    }

    private static String code(String text) {
        if (!text.matches("[A-Za-z0-9-]{1,40}")) {
            throw new IllegalArgumentException("A code is letters, digits and hyphens.");
        }
        return text;
    }

    private static BigDecimal price(String text) {
        if (!text.matches("\\d{1,7}(\\.\\d{1,2})?")) {
            throw new IllegalArgumentException("A price is euros and cents, such as 45.00.");
        }
        return new BigDecimal(text).setScale(2);
    }

    private static int parts(@Nullable Integer many) {
        if (many == null) {
            throw new IllegalArgumentException("In how many parts?");
        }
        return many;
    }

    private static @Nullable Integer number(String text) {
        return text.matches("\\d{1,3}") && Integer.parseInt(text) > 0 ? Integer.valueOf(text) : null;
    }

    private static String filled(String text, String otherwise) {
        if (text.isEmpty()) {
            throw new IllegalArgumentException(otherwise);
        }
        return text;
    }

    private static String text(Map<String, String> form, String field) {
        return form.getOrDefault(field, "").strip();
    }
}
