package yoru.server.systems;

import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.core.policies.Policies;
import yoru.core.systems.Matter;

/**
 * What should be so for one person in one system, whatever is so now.
 *
 * @param person the person's key, an e-mail address
 * @param open whether the person should have it
 * @param until when it ends by itself; none = not
 * @param renews whether {@code until} is only when it would end without a further payment
 * @param revision grows with every state, so that an older one arriving late can be told
 * @param key the same for every try of the same revision
 * @param said what a letter or an event says; none for states
 * @param unknown what to do where the person would have to be made known there first, and contacts are not an account of theirs
 */
public record Statement(
        String person,
        String name,
        Matter matter,
        boolean open,
        @Nullable Instant until,
        boolean renews,
        int revision,
        String key,
        @Nullable JsonNode said,
        Policies.UnknownContacts unknown) {

    /** The same, making the person known there where need be. */
    public Statement(
            String person,
            String name,
            Matter matter,
            boolean open,
            @Nullable Instant until,
            boolean renews,
            int revision,
            String key,
            @Nullable JsonNode said) {
        this(person, name, matter, open, until, renews, revision, key, said, Policies.UnknownContacts.MAKE);
    }

    public Optional<JsonNode> content() {
        return Optional.ofNullable(said);
    }
}
