package yoru.server.accounts;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Arrays;
import java.util.Objects;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.security.web.webauthn.api.AuthenticatorTransport;
import org.springframework.security.web.webauthn.api.Bytes;
import org.springframework.security.web.webauthn.api.CredentialRecord;
import org.springframework.security.web.webauthn.api.ImmutableCredentialRecord;
import org.springframework.security.web.webauthn.api.ImmutablePublicKeyCose;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialType;

/** What somebody signs in with instead of a password: the public half of a key pair (W3C Web Authentication, level 2). */
@Entity
@Table(name = "passkey")
class Passkey {

    @Id
    UUID id;

    UUID operatorId;

    /** As they call the device that has the other half. */
    String name;

    /** The host of the school's address when it was made; it is good for no other. */
    String host;

    byte[] credentialId;
    byte[] publicKey;

    /** What the device said of the key when it was made. */
    byte[] attestation;

    /** How browsers reach the device, with spaces between. */
    String transports;

    long signatureCount;
    boolean backupEligible;
    boolean backedUp;
    Instant addedAt;

    @Nullable
    Instant usedAt;

    @SuppressWarnings("NullAway.Init")
    protected Passkey() {}

    Passkey(UUID operatorId, String host, CredentialRecord made, Instant now) {
        this.id = UUID.randomUUID();
        this.operatorId = operatorId;
        this.name = made.getLabel();
        this.host = host;
        this.credentialId = made.getCredentialId().getBytes();
        this.publicKey = made.getPublicKey().getBytes();
        this.attestation = Objects.requireNonNull(made.getAttestationObject()).getBytes();
        this.transports = made.getTransports().stream()
                .map(AuthenticatorTransport::getValue)
                .sorted()
                .collect(Collectors.joining(" "));
        this.signatureCount = made.getSignatureCount();
        this.backupEligible = made.isBackupEligible();
        this.backedUp = made.isBackupState();
        this.addedAt = now;
    }

    /**
     * Notes that somebody has signed in with it.
     *
     * @return whether that can have been the device itself: one that counts never counts backwards (7.2, step 22)
     */
    boolean use(CredentialRecord seen, Instant now) {
        boolean counts = seen.getSignatureCount() > 0 || signatureCount > 0;
        if (counts && seen.getSignatureCount() <= signatureCount) {
            return false;
        }
        signatureCount = seen.getSignatureCount();
        backedUp = seen.isBackupState();
        usedAt = now;
        return true;
    }

    CredentialRecord credential() {
        return ImmutableCredentialRecord.builder()
                .credentialType(PublicKeyCredentialType.PUBLIC_KEY)
                .credentialId(new Bytes(credentialId))
                .userEntityUserId(PasskeyUsers.handle(operatorId))
                .publicKey(new ImmutablePublicKeyCose(publicKey))
                .attestationObject(new Bytes(attestation))
                .signatureCount(signatureCount)
                .uvInitialized(true)
                .transports(Arrays.stream(transports.split(" "))
                        .filter(it -> !it.isEmpty())
                        .map(AuthenticatorTransport::valueOf)
                        .collect(Collectors.toSet()))
                .backupEligible(backupEligible)
                .backupState(backedUp)
                .label(name)
                .created(addedAt)
                .lastUsed(usedAt == null ? addedAt : usedAt)
                .build();
    }
}
