package yoru.standins.shop;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import yoru.standins.practice.InventedNames;

/** Those who came to the shop so far, all invented. */
final class People {

    private static final int MANY = 600;

    private People() {}

    record Person(String name, String email) {

        Till.Buyer buyer() {
            return new Till.Buyer(email, name, false);
        }
    }

    /** The same for the same numbers. */
    static List<Person> all(Random random) {
        Map<String, Person> people = new LinkedHashMap<>();
        while (people.size() < MANY) {
            var given = any(InventedNames.GIVEN, random);
            var family = any(InventedNames.FAMILY, random);
            var host = random.nextInt(4) == 0 ? "letter.example" : "post.example";
            var name = given + " " + family;
            people.putIfAbsent(InventedNames.address(name, host), new Person(name, InventedNames.address(name, host)));
        }
        return List.copyOf(people.values());
    }

    private static String any(List<String> words, Random random) {
        return words.get(random.nextInt(words.size()));
    }
}
