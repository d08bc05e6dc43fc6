package yoru.server.accounts;

import java.io.Serializable;
import java.security.Principal;

/**
 * The operator of a session.
 *
 * @param passwordStamp of the password with which it began
 */
public record SignedIn(String email, String name, int passwordStamp) implements Principal, Serializable {

    @Override
    public String getName() {
        return name;
    }
}
