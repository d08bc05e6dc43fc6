package yoru.server.systems;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import yoru.core.rulebook.Target;
import yoru.core.systems.Ability;
import yoru.server.systems.SystemClient.Question;

/**
 * Translates between Yoru and one kind of system, and decides nothing: not whether, not when, not for whom. All that it
 * is asked can be asked again. A system's trouble is thrown as {@link TroubleException}.
 */
public interface Connector {

    SystemKind kind();

    /** What systems of the kind can do; only that is asked of them. */
    Set<Ability> abilities();

    /** How the address of such a system is written. */
    default AddressForm addressForm() {
        return AddressForm.WEB;
    }

    /** Said where somebody is no contact there and by policy is not made one: nothing was done, and nothing is to be. */
    String LEFT_OUT = "is no contact there; left out";

    /**
     * States what should be so.
     *
     * @return what the system has done, in a few plain words
     */
    default String tell(Place place, Statement statement) {
        throw new UnsupportedOperationException(kind() + " is told nothing");
    }

    /**
     * What is sent to state it, as {@link Question#inWords} or a line of a file; nothing is sent. For a name that only the system
     * knows the person's key stands.
     */
    default String preview(Place place, Statement statement) {
        throw new UnsupportedOperationException(kind() + " is told nothing");
    }

    /** Everything that the system lists, in the order in which it shows it; for {@link Ability#CATALOGUE}. */
    default List<Listed> catalogue(Place place) {
        throw new UnsupportedOperationException(kind() + " lists nothing");
    }

    /**
     * A part of who has what, for {@link Ability#LISTING}.
     *
     * @param from where the last part ended; none = the beginning
     */
    default Part list(Place place, @Nullable String from) {
        throw new UnsupportedOperationException(kind() + " does not tell who has what");
    }

    /**
     * Has the system show something at a place, for {@link Ability#DOORS} and {@link Ability#AFTER}.
     *
     * @param path of the place: a course, section or level, or the school; a product or an option
     * @param shown none = nothing of Yoru's
     * @return what the system has done, in a few plain words
     */
    default String show(Place place, String path, @Nullable Shown shown, String key) {
        throw new UnsupportedOperationException(kind() + " shows nothing");
    }

    /** What the system shows, by the paths of the places. */
    default Map<String, JsonNode> shown(Place place) {
        throw new UnsupportedOperationException(kind() + " shows nothing");
    }

    /** Files that lie ready, for systems that hand files over instead of reporting. */
    default Optional<Inbox> inbox(Place place) {
        return Optional.empty();
    }

    /** Methods of payment that somebody left with the system, for {@link Ability#CHARGING}. */
    default List<Method> methods(Place place, String person) {
        throw new UnsupportedOperationException(kind() + " charges nothing");
    }

    /** Charges one of them. Asked again under the same key, nothing is charged again, and the answer is the same. */
    default Charged charge(Place place, Charge charge) {
        throw new UnsupportedOperationException(kind() + " charges nothing");
    }

    /** @param label by which somebody knows it: "card ending 4242" */
    record Method(String id, String label) {}

    /**
     * What is to be charged.
     *
     * @param method as the system calls it
     * @param about what the buyer reads
     */
    record Charge(String key, String person, String method, BigDecimal amount, Currency currency, String about) {}

    /**
     * What came of it.
     *
     * @param said by which it is found in the system's books, or why it was refused
     */
    record Charged(boolean paid, String said) {}

    /** A real record from the other side, to see that the connection leads where it should. */
    Sample sample(Place place);

    /** Where a system puts files down. */
    interface Inbox {

        /** The names of those that are complete, the first first. */
        List<String> waiting();

        byte[] read(String name);

        /** @param toMend rows that were not taken, to lie beside it; none where all were */
        void done(String name, @Nullable String toMend);

        /** Puts it aside, with the reason beside it. */
        void refused(String name, String why);
    }

    /**
     * Part of what a system has.
     *
     * @param rest where the next part begins; none = this was the last
     */
    record Part(List<Found> found, @Nullable String rest) {
        public Part {
            found = List.copyOf(found);
        }

        public Optional<String> next() {
            return Optional.ofNullable(rest);
        }
    }

    /**
     * That somebody has something in the system.
     *
     * @param until when it ends there by itself; none = not
     * @param dated whether the system keeps ends at all
     */
    record Found(String person, Target target, @Nullable Instant until, boolean dated) {}

    /**
     * A record from the other side.
     *
     * @param what what it is: "a course", "one contact"
     * @param record as the system wrote it, shortened if long
     */
    record Sample(String what, String record) {}

    /** How an address is written. */
    enum AddressForm {
        /** {@code https://host} */
        WEB,
        /** {@code https://host/where/the/interface/begins} */
        WEB_BASE,
        /** {@code https://host/with/a/path}, to which something is sent. */
        WEB_WITH_PATH,
        /** {@code smtp://host:port} */
        MAIL,
        /** The name of a folder. */
        FOLDER
    }
}
