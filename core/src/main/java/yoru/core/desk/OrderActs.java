package yoru.core.desk;

import yoru.core.access.Engine;
import yoru.core.ledger.Happening;
import yoru.core.ledger.Histories;
import yoru.core.ledger.Order;
import yoru.core.orders.OrderAccount;

/** What is done about an order that there is. */
final class OrderActs {

    private final Engine engine;
    private final Histories histories;
    private final Deciding deciding;

    OrderActs(Engine engine, Histories histories, Deciding deciding) {
        this.engine = engine;
        this.histories = histories;
        this.deciding = deciding;
    }

    void decide(Act.AboutOrder act) {
        histories
                .order(act.order())
                .ifPresentOrElse(
                        order -> decide(act, order),
                        () -> deciding.refuse("order", "There is no order " + act.order() + "."));
    }

    private void decide(Act.AboutOrder act, Order order) {
        switch (act) {
            case Act.Pay it -> pay(it, order);
            case Act.PayInstalment it -> payInstalment(it, order);
            case Act.Invoice it -> {
                deciding.refuseIf(it.number().isBlank(), "number", "An invoice has a number.");
                deciding.refuseIf(deciding.isBeforeToday(it.payBy()), "payBy", "This day is over.");
                deciding.fact(
                        order.placed().subject(),
                        new Happening.OrderInvoiced(order.id(), it.number().strip(), it.payBy()));
            }
            case Act.Fulfil _ -> {
                deciding.refuseIf(order.fulfilled().isPresent(), "", "It is fulfilled already.");
                deciding.refuseIf(order.cancelled().isPresent(), "", "It was cancelled.");
                deciding.fact(order.placed().subject(), new Happening.OrderFulfilled(order.id()));
            }
            case Act.Cancel _ -> {
                deciding.refuseIf(order.cancelled().isPresent(), "", "It is cancelled already.");
                deciding.fact(order.placed().subject(), new Happening.OrderCancelled(order.id()));
            }
            case Act.Refund it -> refund(it, order);
            case Act.Claim it -> claim(it, order);
            case Act.Assign it -> assign(it, order);
        }
    }

    private void pay(Act.Pay act, Order order) {
        deciding.refuseIf(order.paid().isPresent(), "", "It is paid already.");
        deciding.refuseIf(order.cancelled().isPresent(), "", "It was cancelled.");
        deciding.refuseIf(order.total().signum() == 0, "", "It costs nothing.");
        deciding.fact(
                order.placed().subject(),
                new Happening.OrderPaid(
                        order.id(), act.method().strip(), act.reference().strip()));
    }

    private void payInstalment(Act.PayInstalment act, Order order) {
        var account = new OrderAccount(order, engine);
        var due = order.line(act.line()).stream()
                .flatMap(line -> account.dues(line).stream())
                .filter(it -> it.number() == act.number())
                .findFirst();
        deciding.refuseIf(due.isEmpty(), "number", "There is no such instalment.");
        deciding.refuseIf(due.flatMap(it -> it.paid()).isPresent(), "number", "It is paid already.");
        deciding.fact(order.placed().subject(), new Happening.InstalmentPaid(order.id(), act.line(), act.number()));
    }

    private void refund(Act.Refund act, Order order) {
        var account = new OrderAccount(order, engine);
        deciding.refuseIf(
                act.line() != null && order.line(act.line()).isEmpty(), "line", "The order has no such line.");
        var sums = act.line() == null ? account.sums() : account.sums(act.line());
        var left = sums.paid().subtract(sums.givenBack());
        if (act.amount() != null) {
            deciding.amount("amount", act.amount(), order.details().currency());
            deciding.refuseIf(act.amount().signum() == 0, "amount", "Nothing would be given back.");
            deciding.refuseIf(
                    act.amount().compareTo(left) > 0,
                    "amount",
                    "At most %s is left of what was paid.".formatted(left.toPlainString()));
        } else if (sums.amount().signum() > 0) {
            deciding.refuseIf(
                    left.signum() == 0, "", "Nothing is left of what was paid. To end what is not paid, cancel it.");
        }
        deciding.fact(
                order.placed().subject(),
                new Happening.OrderRefunded(
                        order.id(), act.line(), act.amount(), act.reason().strip()));
    }

    private void claim(Act.Claim act, Order order) {
        deciding.address("person", act.person());
        var line = order.line(act.line());
        var seat = new Order.Seat(act.line(), act.seat());
        boolean exists = line.isPresent() && new OrderAccount(order, engine).has(line.get(), seat);
        deciding.refuseIf(!exists, "seat", "The order has no such seat.");
        deciding.refuseIf(order.claims().containsKey(seat), "seat", "Somebody has taken it already.");
        deciding.refuseIf(order.cancelled().isPresent(), "", "The order was cancelled.");
        deciding.fact(act.person(), new Happening.GiftClaimed(order.id(), act.line(), act.seat()));
    }

    private void assign(Act.Assign act, Order order) {
        deciding.refuseIf(act.people().isEmpty(), "people", "Name somebody.");
        deciding.refuseIf(order.cancelled().isPresent(), "", "The order was cancelled.");
        var account = new OrderAccount(order, engine);
        var free = order.line(act.line()).stream()
                .flatMap(line -> account.free(line).stream())
                .toList();
        deciding.refuseIf(
                act.people().size() > free.size(),
                "people",
                "%d seats are left for %d people."
                        .formatted(free.size(), act.people().size()));
        for (int at = 0; at < act.people().size(); at++) {
            var person = act.people().get(at);
            deciding.address("people[" + at + "]", person);
            deciding.refuseIf(
                    act.people().indexOf(person) < at || hasSeat(order, act.line(), person),
                    "people[" + at + "]",
                    person + " has a seat already.");
            if (deciding.isClear()) {
                deciding.fact(
                        person,
                        new Happening.GiftClaimed(
                                order.id(), act.line(), free.get(at).number()));
            }
        }
    }

    private boolean hasSeat(Order order, String line, String person) {
        return order.claims().entrySet().stream()
                .anyMatch(claim -> claim.getKey().line().equals(line)
                        && claim.getValue().person().equals(histories.personOf(person)));
    }
}
