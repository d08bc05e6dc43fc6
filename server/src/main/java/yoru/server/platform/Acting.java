package yoru.server.platform;

import java.util.Optional;
import java.util.UUID;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;

/** Whoever is at work in the request at hand. */
public interface Acting {

    /** None where their session began under a version that did not note it. */
    Optional<UUID> accountId();

    String address();

    /** Nobody in work that no operator asked for, and on pages that anybody may open. */
    static Optional<Acting> now() {
        return Optional.ofNullable(SecurityContextHolder.getContext().getAuthentication())
                .map(Authentication::getPrincipal)
                .filter(Acting.class::isInstance)
                .map(Acting.class::cast);
    }
}
