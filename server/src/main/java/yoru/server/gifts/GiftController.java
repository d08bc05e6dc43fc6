package yoru.server.gifts;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;

/** What became of an order's gifts and seats, and what the desk does about them. */
@RestController
class GiftController {

    private final Gifts gifts;
    private final BuyerSeats buyerSeats;

    GiftController(Gifts gifts, BuyerSeats buyerSeats) {
        this.gifts = gifts;
        this.buyerSeats = buyerSeats;
    }

    /** @param address shown once; only what is computed from it is kept */
    record MadeLink(String address) {}

    /** Makes the secret address under which the buyer sees the seats of an order and sends them; one made before ends. */
    @PostMapping("/api/orders/{id}/seats/link")
    MadeLink link(@PathVariable String id, @AuthenticationPrincipal SignedIn operator) {
        return new MadeLink(buyerSeats.link(id, operator.name()));
    }

    /**
     * @param sendOn on which day it goes out by itself, as the school counts days
     * @param over whether the letter can no longer be used
     */
    record OfferedSeat(
            String line,
            int seat,
            String address,
            Gift.State state,
            @Nullable LocalDate sendOn,
            @Nullable Instant sentAt,
            boolean over) {}

    /** @param address none = where it was to go before */
    record SeatToSend(
            @NotBlank @Size(max = 200) String line,
            @Min(1) int seat,
            @Nullable @Email @Size(max = 320) String address) {}

    @GetMapping("/api/orders/{id}/gifts")
    List<OfferedSeat> gifts(@PathVariable String id) {
        return gifts.of(id).stream()
                .map(gift -> new OfferedSeat(
                        gift.line,
                        gift.seat,
                        gift.address,
                        gift.state,
                        gift.sendOn,
                        gift.sentAt,
                        gift.sentAt != null && gifts.isOver(gift.sentAt)))
                .toList();
    }

    @PostMapping("/api/orders/{id}/gifts/send")
    List<OfferedSeat> send(
            @PathVariable String id, @Valid @RequestBody SeatToSend seat, @AuthenticationPrincipal SignedIn operator) {
        gifts.sendAgain(new Gift.Place(id, seat.line, seat.seat), seat.address, operator.name());
        return gifts(id);
    }

    @PostMapping("/api/orders/{id}/gifts/withdraw")
    List<OfferedSeat> withdraw(
            @PathVariable String id, @Valid @RequestBody SeatToSend seat, @AuthenticationPrincipal SignedIn operator) {
        gifts.withdraw(new Gift.Place(id, seat.line, seat.seat), operator.name());
        return gifts(id);
    }
}
