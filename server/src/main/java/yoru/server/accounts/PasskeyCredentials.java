package yoru.server.accounts;

import java.time.Clock;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.web.webauthn.api.Bytes;
import org.springframework.security.web.webauthn.api.CredentialRecord;
import org.springframework.security.web.webauthn.management.UserCredentialRepository;
import org.springframework.stereotype.Component;
import yoru.server.platform.SchoolSettings;

/** Passkeys, as Spring Security's Web Authentication keeps them. */
@Component
class PasskeyCredentials implements UserCredentialRepository {

    private final PasskeyTable table;
    private final SchoolSettings settings;
    private final Clock clock;

    PasskeyCredentials(PasskeyTable table, SchoolSettings settings, Clock clock) {
        this.table = table;
        this.settings = settings;
        this.clock = clock;
    }

    /** @throws IllegalArgumentException where the device seems to be a copy of the one that was here before */
    @Override
    public void save(CredentialRecord credential) {
        var known = table.lockByCredentialId(credential.getCredentialId().getBytes());
        if (known.isEmpty()) {
            table.save(new Passkey(
                    PasskeyUsers.operator(credential.getUserEntityUserId()),
                    PasskeyPlace.of(settings).host(),
                    credential,
                    clock.instant()));
        } else if (!known.get().use(credential, clock.instant())) {
            throw new IllegalArgumentException("the device counts backwards");
        }
    }

    @Override
    public @Nullable CredentialRecord findByCredentialId(Bytes id) {
        return table.lockByCredentialId(id.getBytes()).map(Passkey::credential).orElse(null);
    }

    @Override
    public List<CredentialRecord> findByUserId(Bytes handle) {
        return table.findByOperatorIdOrderByAddedAt(PasskeyUsers.operator(handle)).stream()
                .map(Passkey::credential)
                .toList();
    }

    @Override
    public void delete(Bytes id) {
        table.deleteByCredentialId(id.getBytes());
    }
}
