package yoru.server.accounts;

import java.io.Serializable;
import java.security.Principal;

/**
 * The operator of a session.
 *
 * @param passwordChanges how often their password had been changed when it began
 */
public record SignedIn(String email, String name, int passwordChanges) implements Principal, Serializable {

    @Override
    public String getName() {
        return name;
    }
}
