package yoru.server.accounts;

import java.nio.ByteBuffer;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.web.webauthn.api.Bytes;
import org.springframework.security.web.webauthn.api.ImmutablePublicKeyCredentialUserEntity;
import org.springframework.security.web.webauthn.api.PublicKeyCredentialUserEntity;
import org.springframework.security.web.webauthn.management.PublicKeyCredentialUserEntityRepository;
import org.springframework.stereotype.Component;

/** Operators, as Spring Security's Web Authentication knows people. */
@Component
class PasskeyUsers implements PublicKeyCredentialUserEntityRepository {

    private final Operators operators;

    PasskeyUsers(Operators operators) {
        this.operators = operators;
    }

    /** By which devices know an account; it says nothing of who it is. */
    static Bytes handle(UUID operator) {
        return new Bytes(ByteBuffer.allocate(2 * Long.BYTES)
                .putLong(operator.getMostSignificantBits())
                .putLong(operator.getLeastSignificantBits())
                .array());
    }

    static UUID operator(Bytes handle) {
        var bytes = ByteBuffer.wrap(handle.getBytes());
        return new UUID(bytes.getLong(), bytes.getLong());
    }

    @Override
    public @Nullable PublicKeyCredentialUserEntity findById(Bytes handle) {
        return operators.findById(operator(handle)).map(PasskeyUsers::user).orElse(null);
    }

    @Override
    public @Nullable PublicKeyCredentialUserEntity findByUsername(String email) {
        return operators.findByEmail(email).map(PasskeyUsers::user).orElse(null);
    }

    private static PublicKeyCredentialUserEntity user(Operator operator) {
        return ImmutablePublicKeyCredentialUserEntity.builder()
                .id(handle(operator.id))
                .name(operator.email)
                .displayName(operator.name)
                .build();
    }

    @Override
    public void save(PublicKeyCredentialUserEntity user) {
        throw new UnsupportedOperationException("operators are made by Accounts");
    }

    @Override
    public void delete(Bytes handle) {
        throw new UnsupportedOperationException("operators are removed by Accounts");
    }
}
