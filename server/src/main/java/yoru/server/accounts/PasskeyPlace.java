package yoru.server.accounts;

import java.net.URI;
import java.util.Set;
import org.springframework.security.web.webauthn.api.AuthenticatorSelectionCriteria;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialRpEntity;
import org.springframework.security.web.webauthn.api.ResidentKeyRequirement;
import org.springframework.security.web.webauthn.api.UserVerificationRequirement;
import org.springframework.security.web.webauthn.management.PublicKeyCredentialUserEntityRepository;
import org.springframework.security.web.webauthn.management.UserCredentialRepository;
import org.springframework.security.web.webauthn.management.WebAuthnRelyingPartyOperations;
import org.springframework.security.web.webauthn.management.Webauthn4JRelyingPartyOperations;
import yoru.server.platform.SchoolSettings;

/**
 * Where passkeys are good: at the school's address as it is now.
 *
 * @param origin scheme, host and port, as browsers say them
 */
record PasskeyPlace(String school, String host, String origin) {

    static PasskeyPlace of(SchoolSettings settings) {
        var address = URI.create(settings.publicAddress());
        var host = String.valueOf(address.getHost());
        var port = address.getPort() < 0 ? "" : ":" + address.getPort();
        return new PasskeyPlace(settings.name(), host, address.getScheme() + "://" + host + port);
    }

    /** Browsers make passkeys for names only, and only where nobody can listen in (W3C Secure Contexts, 3.1). */
    boolean isPossible() {
        boolean isNumber = host.startsWith("[") || host.matches("[0-9.]+");
        return !isNumber && (origin.startsWith("https://") || host.equals("localhost"));
    }

    /** The device asks for a finger, a face or a PIN each time: a passkey is two factors in one. */
    WebAuthnRelyingPartyOperations operations(
            PublicKeyCredentialUserEntityRepository users, UserCredentialRepository credentials) {
        var party = PublicKeyCredentialRpEntity.builder().id(host).name(school).build();
        var operations = new Webauthn4JRelyingPartyOperations(users, credentials, party, Set.of(origin));
        operations.setCustomizeCreationOptions(
                options -> options.authenticatorSelection(AuthenticatorSelectionCriteria.builder()
                        .userVerification(UserVerificationRequirement.REQUIRED)
                        .residentKey(ResidentKeyRequirement.REQUIRED)
                        .build()));
        operations.setCustomizeRequestOptions(
                options -> options.userVerification(UserVerificationRequirement.REQUIRED));
        return operations;
    }
}
