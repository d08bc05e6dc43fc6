package yoru.server.announcements;

import java.util.Optional;

/** The pages on which people see all that they have. */
public interface OwnPages {

    /** Whether letters carry a link to them. */
    boolean areSent();

    /** A link to somebody's, for a letter to them; nothing where the school sends none. */
    Optional<String> linkFor(long person);
}
