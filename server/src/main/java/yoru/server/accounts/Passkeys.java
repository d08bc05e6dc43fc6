package yoru.server.accounts;

import com.webauthn4j.util.exception.WebAuthnException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.web.webauthn.api.AuthenticatorAssertionResponse;
import org.springframework.security.web.webauthn.api.AuthenticatorAttestationResponse;
import org.springframework.security.web.webauthn.api.PublicKeyCredential;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialCreationOptions;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialRequestOptions;
import org.springframework.security.web.webauthn.jackson.WebauthnJacksonModule;
import org.springframework.security.web.webauthn.management.ImmutablePublicKeyCredentialCreationOptionsRequest;
import org.springframework.security.web.webauthn.management.ImmutablePublicKeyCredentialRequestOptionsRequest;
import org.springframework.security.web.webauthn.management.ImmutableRelyingPartyRegistrationRequest;
import org.springframework.security.web.webauthn.management.RelyingPartyAuthenticationRequest;
import org.springframework.security.web.webauthn.management.RelyingPartyPublicKey;
import org.springframework.security.web.webauthn.management.WebAuthnRelyingPartyOperations;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.JacksonException;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import yoru.server.journal.Journal;
import yoru.server.journal.Kind;
import yoru.server.platform.ProblemException;
import yoru.server.platform.SchoolSettings;

/**
 * Passkeys (W3C Web Authentication, level 2): a key that somebody's device keeps for this school's address alone and uses
 * only once it has seen who holds it. Nothing that is kept here lets anybody in.
 */
@Service
public class Passkeys {

    private static final int MOST = 20;
    private static final Logger LOG = LoggerFactory.getLogger(Passkeys.class);
    private static final TypeReference<PublicKeyCredential<AuthenticatorAttestationResponse>> MADE =
            new TypeReference<>() {};
    private static final TypeReference<PublicKeyCredential<AuthenticatorAssertionResponse>> SHOWN =
            new TypeReference<>() {};

    private final JsonMapper json =
            JsonMapper.builder().addModule(new WebauthnJacksonModule()).build();
    private final PasskeyTable table;
    private final PasskeyUsers users;
    private final PasskeyCredentials credentials;
    private final Operators operators;
    private final Journal journal;
    private final SchoolSettings settings;

    Passkeys(
            PasskeyTable table,
            PasskeyUsers users,
            PasskeyCredentials credentials,
            Operators operators,
            Journal journal,
            SchoolSettings settings) {
        this.table = table;
        this.users = users;
        this.credentials = credentials;
        this.operators = operators;
        this.journal = journal;
        this.settings = settings;
    }

    /**
     * One of somebody's passkeys.
     *
     * @param host of the school's address when it was made
     * @param good whether that is its host still
     */
    record KeptPasskey(
            UUID id,
            String name,
            String host,
            boolean good,
            Instant addedAt,
            @Nullable Instant usedAt) {}

    @Transactional(readOnly = true)
    public List<KeptPasskey> of(SignedIn who) {
        var host = PasskeyPlace.of(settings).host();
        return table.findByOperatorIdOrderByAddedAt(account(who)).stream()
                .map(it -> new KeptPasskey(it.id, it.name, it.host, it.host.equals(host), it.addedAt, it.usedAt))
                .toList();
    }

    /** Where passkeys are good; nothing where browsers make none for the school's address. */
    Optional<String> host() {
        return Optional.of(PasskeyPlace.of(settings))
                .filter(PasskeyPlace::isPossible)
                .map(PasskeyPlace::host);
    }

    JsonNode written(Object options) {
        return json.valueToTree(options);
    }

    /** What a device needs to know to make one. */
    @Transactional(readOnly = true)
    public PublicKeyCredentialCreationOptions offer(SignedIn who) {
        var asker = UsernamePasswordAuthenticationToken.authenticated(who.email(), null, List.of());
        return operations()
                .createPublicKeyCredentialCreationOptions(
                        new ImmutablePublicKeyCredentialCreationOptionsRequest(asker));
    }

    /** Keeps one that a device has made. */
    @Transactional
    public void add(SignedIn who, String name, PublicKeyCredentialCreationOptions offered, JsonNode made) {
        if (table.countByOperatorId(operators.lock(who).id) >= MOST) {
            throw new ProblemException(
                    HttpStatus.CONFLICT, "There are enough", "Remove one of your passkeys before you add another.");
        }
        var kept = verified(() -> operations()
                .registerCredential(new ImmutableRelyingPartyRegistrationRequest(
                        offered, new RelyingPartyPublicKey(json.convertValue(made, MADE), name.strip()))));
        if (kept.isEmpty()) {
            throw new ProblemException(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    "This passkey was not kept",
                    "What the device answered does not belong to what it was asked. Begin again.");
        }
        note("Has a passkey", who.email() + " · " + name.strip(), who);
    }

    @Transactional
    public void remove(UUID id, SignedIn who) {
        if (table.deleteByIdAndOperatorId(id, account(who)) == 0) {
            throw ProblemException.notFound("You have no passkey of that id.");
        }
        note("Removed a passkey", who.email(), who);
    }

    /** Removes all of somebody's, for who has lost a device. */
    @Transactional
    public void removeAll(UUID operator, SignedIn by) {
        var of = operators.known(operator);
        if (table.deleteByOperatorId(operator) > 0) {
            note("Has no passkeys any more", of.email, by);
        }
    }

    /** What a device needs to know to show that it has one; it says of nobody whether they do. */
    PublicKeyCredentialRequestOptions ask() {
        return operations().createCredentialRequestOptions(new ImmutablePublicKeyCredentialRequestOptionsRequest(null));
    }

    /** Whose it is, where it is good. */
    @Transactional
    public Optional<SignedIn> accept(PublicKeyCredentialRequestOptions asked, JsonNode shown) {
        return verified(() -> operations()
                        .authenticate(new RelyingPartyAuthenticationRequest(asked, json.convertValue(shown, SHOWN))))
                .flatMap(user -> operators.findById(PasskeyUsers.operator(user.getId())))
                .map(Operator::signedIn);
    }

    /** Nothing where what a device has answered is not what it was asked, or is no answer at all. */
    private static <T> Optional<T> verified(Supplier<T> answer) {
        try {
            return Optional.of(answer.get());
        } catch (WebAuthnException | JacksonException | IllegalArgumentException | NullPointerException e) {
            LOG.debug("A passkey is refused", e);
            return Optional.empty();
        }
    }

    private WebAuthnRelyingPartyOperations operations() {
        var place = PasskeyPlace.of(settings);
        if (!place.isPossible()) {
            throw new ProblemException(
                    HttpStatus.CONFLICT,
                    "No passkeys at this address",
                    "Browsers make passkeys only where the school's address begins with https:// and is a name, not a number. An owner can change it under School.");
        }
        return place.operations(users, credentials);
    }

    private UUID account(SignedIn who) {
        return operators.findByEmail(who.email()).orElseThrow(Operators::nobody).id;
    }

    private void note(String what, String about, SignedIn by) {
        journal.write(new Journal.Line(Kind.OPERATOR, what, about, by.name(), null, null));
    }
}
