package yoru.server.desk;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.server.accounts.SignedIn;

/** Quotes: offered, agreed to, declined. */
@RestController
class QuoteController {

    private final Quotes quotes;

    QuoteController(Quotes quotes) {
        this.quotes = quotes;
    }

    /**
     * @param key made by the browser for each quote
     * @param act the order that is offered, to be paid later
     * @param validUntil the last day on which it holds, as the school counts days; none = it does not end
     */
    record NewQuote(
            @NotBlank @Pattern(regexp = "[A-Za-z0-9-]{16,64}")
            String key,

            @NotNull @Valid ActSheet act,
            @Nullable LocalDate validUntil) {}

    @GetMapping("/api/quotes")
    Quotes.QuoteList quotes(
            @RequestParam(defaultValue = "WAITING") Quotes.Order sort, @RequestParam(defaultValue = "0") int page) {
        return quotes.page(sort, Math.clamp(page, 0, 1_000_000));
    }

    @GetMapping("/api/quotes/{id}")
    Quotes.ShownQuote quote(@PathVariable long id) {
        return quotes.one(id);
    }

    @PostMapping("/api/quotes")
    @ResponseStatus(HttpStatus.CREATED)
    Quotes.ShownQuote make(@Valid @RequestBody NewQuote quote, @AuthenticationPrincipal SignedIn operator) {
        return quotes.make(quote.key, quote.act, quote.validUntil, operator.name());
    }

    @PostMapping("/api/quotes/{id}/agree")
    Quotes.ShownQuote agree(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        return quotes.agree(id, operator.name());
    }

    @PostMapping("/api/quotes/{id}/decline")
    Quotes.ShownQuote decline(@PathVariable long id, @AuthenticationPrincipal SignedIn operator) {
        return quotes.decline(id, operator.name());
    }
}
