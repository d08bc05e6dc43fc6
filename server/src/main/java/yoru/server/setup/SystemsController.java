package yoru.server.setup;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.systems.Difference;
import yoru.server.deliveries.DeliveryList;
import yoru.server.drift.Checks;
import yoru.server.drift.Corrections;
import yoru.server.intake.Matchings;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;
import yoru.server.systems.AddressGuard;
import yoru.server.systems.Catalogue;
import yoru.server.systems.CatalogueReader;
import yoru.server.systems.Connection;
import yoru.server.systems.Connections;
import yoru.server.systems.Connector;
import yoru.server.systems.Connectors;
import yoru.server.systems.SystemKind;
import yoru.server.systems.TroubleException;

/** The section Systems. */
@RestController
class SystemsController {

    private static final int SECRET_BYTES = 32;

    private final Connections connections;
    private final Connectors connectors;
    private final CatalogueReader reader;
    private final Catalogue catalogue;
    private final AddressGuard guard;
    private final TryOnce trying;
    private final UsualPlaces usualPlaces;
    private final DeliveryList deliveries;
    private final Checks checks;
    private final Corrections corrections;
    private final Matchings matchings;
    private final Overview overview;
    private final Journal journal;
    private final SecureRandom random = new SecureRandom();

    SystemsController(
            Connections connections,
            Connectors connectors,
            CatalogueReader reader,
            Catalogue catalogue,
            AddressGuard guard,
            TryOnce trying,
            UsualPlaces usualPlaces,
            DeliveryList deliveries,
            Checks checks,
            Corrections corrections,
            Matchings matchings,
            Overview overview,
            Journal journal) {
        this.connections = connections;
        this.connectors = connectors;
        this.reader = reader;
        this.catalogue = catalogue;
        this.guard = guard;
        this.trying = trying;
        this.usualPlaces = usualPlaces;
        this.deliveries = deliveries;
        this.checks = checks;
        this.corrections = corrections;
        this.matchings = matchings;
        this.overview = overview;
        this.journal = journal;
    }

    @GetMapping("/api/systems")
    Overview.Systems systems() {
        return overview.all();
    }

    @GetMapping("/api/systems/{id}")
    Overview.SystemShown system(@PathVariable String id) {
        return overview.of(connections.get(id));
    }

    /** What somebody pasted. */
    record Pasted(
            @NotNull SystemKind kind,
            @NotNull @Size(max = 2000) String address) {}

    /** The address put right, before anything is kept. */
    @PostMapping("/api/systems/address")
    PastedAddress address(@Valid @RequestBody Pasted pasted) {
        return checked(pasted.kind, pasted.address);
    }

    /**
     * @param secret none = Yoru makes one, where one is needed
     * @param openly whether what goes there may be read on its way
     */
    record NewSystem(
            @NotNull SystemKind kind,
            @NotBlank @Size(max = 80) String title,
            @NotBlank @Size(max = 2000) String address,
            @Nullable @Size(max = 500) String token,

            @Nullable @Size(max = 500) @Pattern(regexp = SECRET_FORM)
            String secret,

            @Nullable Map<@Size(max = 40) String, @Size(max = 300) String> settings,
            @Nullable Boolean openly) {}

    static final String SECRET_FORM = "(whsec_)?[A-Za-z0-9+/]{32,}={0,2}";

    /**
     * @param secret shown this once, for pasting it into the other side; none where none was made
     * @param changes what was put right in the address
     */
    record Added(String id, @Nullable String secret, List<String> changes) {}

    @PostMapping("/api/systems")
    @ResponseStatus(HttpStatus.CREATED)
    Added add(@Valid @RequestBody NewSystem wanted, @AuthenticationPrincipal Principal operator) {
        var address = usable(wanted.kind, wanted.address, wanted.openly);
        boolean signs = wanted.kind.signs();
        var made = signs && wanted.secret == null ? newSecret() : null;
        var secret = wanted.secret == null ? made : wanted.secret.strip();
        var id = freeId(wanted.title);
        connections.add(
                new Connections.ConnectionSheet(
                        id,
                        wanted.kind,
                        wanted.title.strip(),
                        address.address(),
                        signs ? secret : null,
                        wanted.token == null || wanted.token.isBlank() ? null : wanted.token.strip()),
                operator.getName());
        set(id, wanted.settings, wanted.openly);
        return new Added(id, made, address.changes());
    }

    /** What is left out stays as it is. */
    record SystemChange(
            @Nullable @Size(min = 1, max = 80) String title,
            @Nullable @Size(max = 2000) String address,
            @Nullable @Size(max = 500) String token,
            @Nullable Map<@Size(max = 40) String, @Size(max = 300) String> settings,
            @Nullable Boolean openly) {}

    @PutMapping("/api/systems/{id}")
    Overview.SystemShown change(
            @PathVariable String id,
            @Valid @RequestBody SystemChange change,
            @AuthenticationPrincipal Principal operator) {
        String address = null;
        if (change.address != null) {
            var known = connections.get(id);
            // what is as it was need not be asked about again
            boolean same = checked(known.kind(), change.address).address().equals(known.address());
            address = usable(known.kind(), change.address, same ? Boolean.TRUE : change.openly)
                    .address();
        }
        connections.change(id, change.title, address, change.token, operator.getName());
        set(id, change.settings, change.openly);
        return overview.of(connections.get(id));
    }

    private void set(String id, @Nullable Map<String, String> settings, @Nullable Boolean openly) {
        if (settings != null) {
            connections.set(id, settings);
        }
        if (openly != null) {
            connections.set(id, Map.of(Connections.OPENLY, openly ? "yes" : ""));
        }
    }

    record NewState(Connection.@NotNull State state) {}

    /** Switches a system off, to trying, or on. */
    @PostMapping("/api/systems/{id}/state")
    Overview.SystemShown become(
            @PathVariable String id, @Valid @RequestBody NewState wanted, @AuthenticationPrincipal Principal operator) {
        if (wanted.state == Connection.State.ON) {
            matchings.checkComplete(id);
            reader.read(connections.get(id)); // what it lists decides of what it is told
        }
        return overview.of(connections.become(id, wanted.state, operator.getName()));
    }

    record NewSecret(
            @Nullable @Size(max = 500) @Pattern(regexp = SECRET_FORM)
            String secret) {}

    /** @param secret shown this once; none where it was given */
    record SecretChanged(@Nullable String secret) {}

    /** Changes the secret that signs; the one before is good for another 24 hours. */
    @PostMapping("/api/systems/{id}/secret")
    SecretChanged changeSecret(
            @PathVariable String id,
            @Valid @RequestBody NewSecret wanted,
            @AuthenticationPrincipal Principal operator) {
        var made = wanted.secret == null ? newSecret() : null;
        connections.changeSecret(
                id, made == null ? String.valueOf(wanted.secret).strip() : made, operator.getName());
        return new SecretChanged(made);
    }

    /**
     * @param fault why there is none
     * @param tried other addresses on the same host that were tried then
     * @param found the one of them that answers as it should
     */
    record Tested(
            @Nullable String what,
            @Nullable String record,
            @Nullable String fault,
            @Nullable String advice,
            List<String> tried,
            @Nullable String found) {}

    /** Fetches a real record from the other side. */
    @PostMapping("/api/systems/{id}/test")
    Tested test(@PathVariable String id) {
        var connection = connections.get(id);
        try {
            Connector.Sample sample = connectors.of(connection).sample(connections.place(connection));
            return new Tested(sample.what(), sample.record(), null, null, List.of(), null);
        } catch (TroubleException e) {
            var looked = usualPlaces.look(connection, e.trouble());
            return new Tested(
                    null,
                    null,
                    e.words(),
                    e.trouble().advice(),
                    looked.tried(),
                    looked.found().orElse(null));
        }
    }

    record Tried(List<TryOnce.Hop> hops) {}

    /** Sends one sample end to end, and takes it back; of a shop, follows the sale that is wanted, or any. */
    @PostMapping("/api/systems/{id}/try")
    Tried tryOnce(
            @PathVariable String id,
            @RequestBody(required = false) @Valid SampleSale.@Nullable Wanted wanted,
            @AuthenticationPrincipal Principal operator) {
        return new Tried(trying.run(
                connections.get(id), operator.getName(), wanted == null ? SampleSale.Wanted.ANYTHING : wanted));
    }

    /** @param fault why the catalogue could not be read */
    record CatalogueRead(@Nullable String fault) {}

    /** Reads a system's catalogue now. */
    @PostMapping("/api/systems/{id}/catalogue")
    CatalogueRead read(@PathVariable String id, @AuthenticationPrincipal Principal operator) {
        var connection = connections.get(id);
        var fault = reader.read(connection);
        journal.write(new Journal.Line(
                Kind.OPERATOR,
                "Catalogue read again",
                connection.title() + fault.map(said -> ": " + said).orElse(""),
                operator.getName(),
                null,
                null));
        return new CatalogueRead(fault.orElse(null));
    }

    /** The new names in a system's catalogue were seen. */
    @PostMapping("/api/systems/{id}/catalogue/seen")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void seen(@PathVariable String id) {
        catalogue.seen(connections.get(id).id());
    }

    /** What a system still has to be told. */
    @GetMapping("/api/systems/{id}/deliveries")
    List<DeliveryList.DeliveryStatus> open(@PathVariable String id) {
        return deliveries.open(connections.get(id).id());
    }

    record CheckBegun(boolean begun) {}

    /** Begins to compare what a system has with what it should have. */
    @PostMapping("/api/systems/{id}/check")
    @ResponseStatus(HttpStatus.ACCEPTED)
    CheckBegun check(@PathVariable String id, @AuthenticationPrincipal Principal operator) {
        return new CheckBegun(checks.begin(id, operator.getName()));
    }

    @GetMapping("/api/systems/{id}/out-of-step")
    List<Corrections.OutOfStepShown> outOfStep(
            @PathVariable String id,
            @RequestParam(defaultValue = "MISSING,EXTRA,DIFFERENT") List<Difference.Kind> kind,
            @RequestParam(required = false) @Nullable String target) {
        return corrections.list(connections.get(id).id(), kind, target);
    }

    /** @param ids single ones, or none for all of the kind */
    record Chosen(
            @Nullable @Size(max = 1000) List<Long> ids,
            Difference.@Nullable Kind kind,
            @Nullable @Size(max = 300) String why) {

        Corrections.Choice choice() {
            return new Corrections.Choice(ids, kind);
        }
    }

    /** Has a system made as Yoru wants it. */
    @PostMapping("/api/systems/{id}/out-of-step/correct")
    Corrections.Settled correct(
            @PathVariable String id, @Valid @RequestBody Chosen chosen, @AuthenticationPrincipal Principal operator) {
        return corrections.correct(id, chosen.choice(), operator.getName());
    }

    /** Takes over what a system has, as given by hand. */
    @PostMapping("/api/systems/{id}/out-of-step/adopt")
    Corrections.Settled adopt(
            @PathVariable String id, @Valid @RequestBody Chosen chosen, @AuthenticationPrincipal Principal operator) {
        return corrections.adopt(
                id, chosen.choice(), Optional.ofNullable(chosen.why).orElse(""), operator.getName());
    }

    /** @throws ProblemException where it is none, or would carry secrets for everybody on the way to read */
    private PastedAddress usable(SystemKind kind, String pasted, @Nullable Boolean openly) {
        var address = checked(kind, pasted);
        if (address.fault() != null) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT, "This address cannot be used", address.fault());
        }
        var form = connectors.of(kind).addressForm();
        if (form == Connector.AddressForm.WEB && !Boolean.TRUE.equals(openly)) {
            var uri = java.net.URI.create(address.address());
            if ("http".equals(uri.getScheme()) && !guard.staysInside(uri)) {
                throw new ProblemException(
                        HttpStatus.UNPROCESSABLE_CONTENT,
                        "This address is not encrypted",
                        "Whoever is on the way could read names, addresses and the token. Use https, or say that this is"
                                + " as you want it.",
                        Map.of("openly", true));
            }
        }
        return address;
    }

    private PastedAddress checked(SystemKind kind, String address) {
        var form = connectors.of(kind).addressForm();
        var pasted = PastedAddress.of(address, form);
        if (pasted.fault() == null && form != Connector.AddressForm.FOLDER) {
            try {
                guard.check(java.net.URI.create(pasted.address()));
            } catch (TroubleException e) {
                return pasted.noting(e);
            }
        }
        return pasted;
    }

    private String newSecret() {
        var bytes = new byte[SECRET_BYTES];
        random.nextBytes(bytes);
        return "whsec_" + Base64.getEncoder().encodeToString(bytes);
    }

    /** Short and readable, for it stands in the address that the other side reports to. */
    private String freeId(String title) {
        var base = title.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        var id = base.isEmpty() ? "system" : base;
        for (int more = 2; connections.find(id).isPresent(); more++) {
            id = (base.isEmpty() ? "system" : base) + "-" + more;
        }
        return id;
    }
}
