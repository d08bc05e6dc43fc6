package yoru.server.accounts;

import java.io.Serializable;
import java.security.Principal;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import yoru.server.platform.Acting;

/**
 * The operator of a session.
 *
 * @param account their id; none in sessions that began under a version before
 * @param passwordStamp of the password with which it began
 */
public record SignedIn(@Nullable UUID account, String email, String name, int passwordStamp)
        implements Principal, Acting, Serializable {

    @Override
    public String getName() {
        return name;
    }

    @Override
    public Optional<UUID> accountId() {
        return Optional.ofNullable(account);
    }

    @Override
    public String address() {
        return email;
    }
}
