package yoru.standins.shop;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Service;
import yoru.standins.practice.Outbox;

/** What a past needs besides plain orders: members and what they chose, gifts, a club, parts that were paid or not. */
@Service
@Profile("shop")
class Scenes {

    private static final int CIRCLE = 9;
    private static final int MEMBERS = 48;
    private static final int GIFTS = 12;
    private static final int DIARIES = 14;

    private static final List<String> TO_CHOOSE = List.of(
            "first-hive", "hive-health", "bee-year", "swarm-season", "winter-care", "bee-garden", "moving-hives");
    private static final List<String> TO_CHOOSE_AS_KEEPER =
            List.of("queen-rearing", "candles-wax", "hive-health", "drones-genes", "skep-weaving", "swarm-season");

    private final Store store;
    private final Till till;
    private final Plans plans;
    private final Methods methods;
    private final Outbox outbox;

    Scenes(Store store, Till till, Plans plans, Methods methods, Outbox outbox) {
        this.store = store;
        this.till = till;
        this.plans = plans;
        this.methods = methods;
        this.outbox = outbox;
    }

    void tell(List<People.Person> people, Instant end) {
        circle(people, end);
        for (int number = 0; number < MEMBERS; number++) {
            member(people.get(5 + number * 11), number, end);
        }
        for (int number = 0; number < GIFTS; number++) {
            gift(people, number, end);
        }
        club(people, end);
        partsOfAYear(people, end);
        for (int number = 0; number < DIARIES; number++) {
            buy(people.get(30 + number * 19), "DIARY", days(end, 150 + number * 21));
        }
        for (int number = 0; number < 3; number++) {
            twice(people.get(90 + number * 41), days(end, 14 + number * 20));
        }
        for (int number = 0; number < 5; number++) {
            var at = days(end, 20 + number * 31);
            var order = buy(people.get(40 + number * 23), number % 2 == 0 ? "QUEEN-LIVE" : "HEALTH", at);
            till.giveBack(order, new BigDecimal(number % 2 == 0 ? "80.00" : "30.00"), at.plus(Duration.ofDays(6)));
        }
    }

    /** Some who pay for the circle month by month; one left it, one came back, and of one the last payment did not come. */
    private void circle(List<People.Person> people, Instant end) {
        for (int months = 1; months <= CIRCLE; months++) {
            var person = people.get(months * 17);
            var subscription = begin(person, "CIRCLE", end.minus(Duration.ofDays(30L * months + 3)));
            if (months == 7) {
                plans.act(subscription, "end-now", days(end, 120));
                plans.goOn(begin(person, "CIRCLE", days(end, 40)), end.plus(Duration.ofDays(1)), false);
                continue;
            }
            plans.goOn(subscription, end.plus(Duration.ofDays(1)), months == 3);
            if (months == 5) {
                plans.act(subscription, "end-later", end);
            }
        }
        for (int years = 1; years <= 4; years++) {
            plans.goOn(begin(people.get(years * 29), "PATRON", days(end, 110L * years)), end, false);
        }
        plans.goOn(begin(people.get(333), "EVENINGS", days(end, 100)), end, false);
        plans.goOn(begin(people.get(334), "EVENINGS", days(end, 330)), end, false);
    }

    private void member(People.Person person, int number, Instant end) {
        var level = number % 10 == 9 ? "WARDEN" : number % 3 == 1 ? "KEEPER" : "FORAGER";
        var begun = end.minus(Duration.ofDays(6 + 27L * (number % 14))).minus(Duration.ofHours(number));
        var subscription = begin(person, level, begun);
        choose(person, level, number, begun, end);
        if (number % 5 == 0) {
            buy(person, "HEALTH", begun.plus(Duration.ofDays(2))); // a reason of its own beside the level's
        }
        if (level.equals("KEEPER") && number % 12 == 1) {
            plans.act(subscription, "end-later", begun.plus(Duration.ofDays(9))); // the trial was enough
            return;
        }
        boolean longAgo = begun.isBefore(days(end, 100));
        if (longAgo && number % 8 == 2) {
            var at = days(end, 60);
            plans.goOn(subscription, at, false);
            plans.act(subscription, "end-now", at);
            plans.goOn(begin(person, "KEEPER", at.plusSeconds(90)), end.plus(Duration.ofDays(1)), false);
            return;
        }
        if (longAgo && number % 8 == 5) {
            plans.goOn(subscription, days(end, 70), true); // lapsed: the payment did not come, and no more after it
            if (number % 16 == 5) {
                plans.goOn(begin(person, level, days(end, 20)), end.plus(Duration.ofDays(1)), false);
            }
            return;
        }
        plans.goOn(subscription, end.plus(Duration.ofDays(1)), number % 13 == 6);
        if (number % 11 == 7) {
            plans.act(subscription, "end-later", end);
        }
    }

    /** What members chose; a few more than their level lets them, and some thought better of it. */
    private void choose(People.Person person, String level, int number, Instant begun, Instant end) {
        if (level.equals("WARDEN")) {
            return;
        }
        var courses = level.equals("KEEPER") ? TO_CHOOSE_AS_KEEPER : TO_CHOOSE;
        int many = (level.equals("KEEPER") ? 3 : 1) + number % 3;
        for (int chosen = 0; chosen < many; chosen++) {
            var at = begun.plus(Duration.ofHours(30L * (chosen + 1)));
            if (at.isBefore(end)) {
                var course = courses.get((number + chosen) % courses.size());
                boolean back = chosen == 1
                        && number % 7 == 3
                        && at.plus(Duration.ofDays(12)).isBefore(end);
                store.choose(person.email(), course, !back);
                Events.report(Events.course("chosen", person.email(), course, at), outbox);
                if (back) {
                    Events.report(
                            Events.course("released", person.email(), course, at.plus(Duration.ofDays(12))), outbox);
                }
            }
        }
    }

    /** Two of three were taken up. */
    private void gift(List<People.Person> people, int number, Instant end) {
        var giver = people.get(60 + number * 7);
        var receiver = people.get(301 + number * 5);
        var at = days(end, 3 + number * 17L);
        var product = List.of("FIRST", "CANDLES", "HONEY", "GARDEN").get(number % 4);
        store.makeAccount(giver.email(), giver.name(), "");
        var lines = till.lines(Map.of(product, 1), Optional.empty(), receiver.email());
        var order = till.buyInThePast(giver.buyer(), lines, at, null);
        var claimed = at.plus(Duration.ofDays(2 + number % 5));
        if (number % 3 != 0 && claimed.isBefore(end)) {
            Events.report(Events.claimed(order, "1", 1, receiver.email(), claimed), outbox);
        }
    }

    /** Twelve places, of which the secretary has given out some. */
    private void club(List<People.Person> people, Instant end) {
        var secretary = new People.Person("Valley Bee Club", "secretary@valley-bees.example");
        store.makeAccount(secretary.email(), secretary.name(), "");
        var at = days(end, 75);
        var order =
                till.buyInThePast(secretary.buyer(), till.lines(Map.of("CLUB", 12), Optional.empty(), null), at, null);
        for (int seat = 2; seat <= 8; seat++) {
            var by = people.get(400 + seat * 3);
            Events.report(Events.claimed(order, "1", seat, by.email(), at.plus(Duration.ofDays(seat))), outbox);
        }
    }

    /** Paid in parts: on time, late, not at all; and those who finished what they learnt. */
    private void partsOfAYear(List<People.Person> people, Instant end) {
        for (int number = 0; number < 6; number++) {
            var person = people.get(77 + number * 31);
            var months = 3 + number * 2;
            var at = days(end, 30L * months + 4);
            var order = buy(person, "MASTER", at);
            for (int part = 2; part <= Math.min(months + 1, 12); part++) {
                var due = at.plus(Duration.ofDays(30L * (part - 1)));
                boolean missed = (number == 2 && part > 4) || (number == 4 && part == months + 1);
                if (missed) {
                    if (part == 5 || number == 4) {
                        Events.report(Events.instalment("failed", order, "1", part, due), outbox);
                    }
                } else {
                    plans.part(order, "1", true, due);
                }
            }
            Events.report(
                    Events.course("completed", person.email(), "first-hive", days(end, 9 + number * 30L)), outbox);
        }
    }

    /** Somebody who bought under another address once, and said so when making an account there. */
    private void twice(People.Person person, Instant at) {
        var name = person.email().substring(0, person.email().indexOf('@'));
        var other = new People.Person(person.name(), name + "@meadow-mail.example");
        buy(other, "HONEY", at);
        Events.report(Events.accountMade(other.email(), person.email(), at.plusSeconds(40)), outbox);
    }

    private String begin(People.Person person, String product, Instant at) {
        return buy(person, product, at).id() + "-1";
    }

    private ShopOrder buy(People.Person person, String product, Instant at) {
        store.makeAccount(person.email(), person.name(), "");
        methods.keep(person.email());
        return till.buyInThePast(person.buyer(), product, at, null);
    }

    private static Instant days(Instant end, long before) {
        return end.minus(Duration.ofDays(before));
    }
}
