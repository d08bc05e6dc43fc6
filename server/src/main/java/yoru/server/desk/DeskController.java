package yoru.server.desk;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.rulebook.Option;
import yoru.core.rulebook.Product;
import yoru.core.rulebook.RulebookIndex;
import yoru.core.rulebook.Sort;
import yoru.core.rulebook.Target;
import yoru.server.accounts.Accounts;
import yoru.server.accounts.Role;
import yoru.server.accounts.SignedIn;
import yoru.server.platform.Again;
import yoru.server.platform.ProblemException;
import yoru.server.rulebooks.Rulebooks;
import yoru.server.systems.Catalogue;

/** What the desk offers, says beforehand and does. */
@RestController
class DeskController {

    private final DeskService desk;
    private final ActConsequences consequences;
    private final Rulebooks rulebooks;
    private final Catalogue catalogue;
    private final Accounts accounts;

    DeskController(
            DeskService desk,
            ActConsequences consequences,
            Rulebooks rulebooks,
            Catalogue catalogue,
            Accounts accounts) {
        this.accounts = accounts;
        this.desk = desk;
        this.consequences = consequences;
        this.rulebooks = rulebooks;
        this.catalogue = catalogue;
    }

    /** @param key made by the browser for each act, so that one sent twice is done once */
    record ActToDo(
            @NotBlank @Pattern(regexp = "[A-Za-z0-9-]{16,64}")
            String key,

            @NotNull @Valid ActSheet act) {}

    /** What can be sold and given. */
    record Offer(String currency, List<OfferedProduct> products, List<OfferedTarget> targets) {}

    /**
     * @param categories by which several can be meant at once
     * @param price as the shop has it; none = no shop lists it
     * @param thing whether it is sent by post
     * @param opens how many things it opens
     */
    record OfferedProduct(
            String id,
            String title,
            List<String> categories,
            List<OfferedOption> options,
            @Nullable BigDecimal price,
            boolean thing,
            int opens) {}

    /** @param price as the shop has it; none = it says none of its own */
    record OfferedOption(String id, String title, @Nullable BigDecimal price) {}

    /** @param tiers of a course with more than one, lowest first */
    record OfferedTarget(String target, String title, String sort, List<String> tiers) {}

    @GetMapping("/api/desk/offer")
    @Transactional(readOnly = true)
    public Offer offer() {
        var now = rulebooks.current();
        var rulebook = now.rulebook();
        var index = now.engine().index();
        Map<String, Catalogue.SoldProduct> sold = new LinkedHashMap<>();
        catalogue.products().forEach(product -> sold.putIfAbsent(product.id(), product));
        var targets = new ArrayList<OfferedTarget>();
        rulebook.courses()
                .forEach(course -> targets.add(new OfferedTarget(
                        new Target.OfCourse(course.id()).path(),
                        course.title(),
                        "course",
                        course.sections().isEmpty()
                                ? List.of()
                                : rulebook.school().tiers())));
        for (Sort sort : List.of(Sort.GROUP, Sort.AREA, Sort.DOWNLOAD, Sort.LIST, Sort.LEVEL, Sort.TAG)) {
            rulebook.all(sort)
                    .forEach(thing -> sort.target(thing.id())
                            .map(target -> new OfferedTarget(target.path(), thing.title(), sort.one(), List.of()))
                            .ifPresent(targets::add));
        }
        return new Offer(
                rulebook.school().currency().getCurrencyCode(),
                rulebook.products().stream()
                        .map(product -> offered(product, sold.get(product.id()), index))
                        .sorted(Comparator.comparing(OfferedProduct::title))
                        .toList(),
                targets);
    }

    private static OfferedProduct offered(Product product, Catalogue.@Nullable SoldProduct sold, RulebookIndex index) {
        return new OfferedProduct(
                product.id(),
                product.title(),
                product.categories(),
                product.options().stream()
                        .map(option -> new OfferedOption(option.id(), option.title(), price(sold, option)))
                        .toList(),
                sold == null ? null : sold.price(),
                sold != null && sold.thing(),
                (int) product.options().stream()
                                .flatMap(option -> index.serving(product, Optional.of(option.id())).stream())
                                .distinct()
                                .count()
                        + index.serving(product, Optional.empty()).size());
    }

    private static @Nullable BigDecimal price(Catalogue.@Nullable SoldProduct sold, Option option) {
        return sold == null ? null : sold.priceOf(option.id()).orElse(null);
    }

    /** What an act would change; nothing is kept or sent. */
    @PostMapping("/api/desk/consequence")
    ActConsequences.ActConsequence consequence(@Valid @RequestBody ActSheet act) {
        return consequences.of(act);
    }

    @PostMapping("/api/desk/acts")
    DeskService.Done act(@Valid @RequestBody ActToDo toDo, @AuthenticationPrincipal SignedIn operator) {
        if (toDo.act.kind() == ActSheet.Kind.ERASE && !accounts.isAtLeast(operator, Role.OPERATOR)) {
            throw new ProblemException(
                    HttpStatus.FORBIDDEN,
                    "Your account may not do this",
                    "An owner or an operator erases people: it cannot be taken back.");
        }
        return Again.ifBeaten(() -> desk.act(toDo.key, toDo.act, operator.name()));
    }
}
