package yoru.server.accounts;

import java.io.Serializable;
import java.security.Principal;

/** The operator of a session. */
public record SignedIn(String email, String name) implements Principal, Serializable {

    @Override
    public String getName() {
        return name;
    }
}
