package yoru.formats;

import java.util.Optional;
import tools.jackson.databind.JsonNode;
import yoru.core.policies.Policies.Introduction;

/** Reads how a system says that it knows the person of a report; what cannot be read is as if it were not said. */
public final class Introductions {

    private Introductions() {}

    public static Introduction read(JsonNode event) {
        var data = event.path("data");
        var guest = data.path("guest");
        var verified = data.path("verifiedEmail");
        return new Introduction(
                guest.isBoolean() && guest.booleanValue(),
                verified.isString() ? Optional.of(verified.stringValue()) : Optional.empty());
    }
}
