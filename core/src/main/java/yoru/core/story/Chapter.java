package yoru.core.story;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import yoru.core.access.Access;
import yoru.core.desk.Decision.Refusal;
import yoru.core.followup.Followups;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Histories;
import yoru.core.letters.Letter;
import yoru.core.letters.OpeningLetter;
import yoru.core.letters.SeatsToGive;
import yoru.core.moves.Turn;
import yoru.core.systems.Wish;

/**
 * What came of one step.
 *
 * @param facts what the ledger has more than before
 * @param refusals why what was to be done at the desk cannot be done; then nothing came of the whole step
 * @param meanwhile what came by itself since the step before, in its order
 * @param before what was known before, with the facts whose time has come meanwhile
 * @param did what follow-ups have done by now
 * @param seatsAreKnown of an order: whether its buyer had the address before under which its seats are given
 */
public record Chapter(
        Setting setting,
        Instant at,
        List<Fact> facts,
        List<Refusal> refusals,
        List<Chapter> meanwhile,
        Histories before,
        Histories after,
        Map<String, Turn> turns,
        Map<String, List<Wish>> told,
        Followups.Done did,
        Predicate<String> seatsAreKnown) {

    public Chapter {
        facts = List.copyOf(facts);
        refusals = List.copyOf(refusals);
        meanwhile = List.copyOf(meanwhile);
        turns = Map.copyOf(turns);
        told = Map.copyOf(told);
    }

    /** What somebody would have at this moment without the step. */
    public List<Access> without(String person) {
        return setting.engine().access(before.person(person), at);
    }

    /** What somebody has after it. */
    public List<Access> with(String person) {
        return turn(person).map(Turn::access).orElseGet(() -> setting.engine().access(after.person(person), at));
    }

    /** What became of somebody; nothing where nothing is known of them. */
    public Optional<Turn> turn(String person) {
        return Optional.ofNullable(turns.get(person));
    }

    /** What systems were told of somebody that they had not been told before, in this order. */
    public List<Wish> told(String person) {
        return told.getOrDefault(person, List.of());
    }

    /**
     * The letter that goes to somebody once what opened is confirmed.
     *
     * @param name what they are called; none = nobody told
     */
    public Optional<Letter> letter(String person, Optional<String> name) {
        return letter(person, person, name);
    }

    /** The same where the key is not the address. */
    public Optional<Letter> letter(String person, String address, Optional<String> name) {
        return turn(person)
                .flatMap(turn -> new OpeningLetter(
                                setting.school(),
                                setting.rulebook(),
                                setting.landscape(),
                                setting.wording(),
                                setting.ownPage() ? OpeningLetter.MADE_WITH_THE_LETTER : null)
                        .ifAny(
                                address,
                                name,
                                turn.news(),
                                () -> withSeats(person).map(offer -> new OpeningLetter.Seats(offer.free(), null))));
    }

    /** The seats that the letter to somebody says they can give. */
    Optional<SeatsToGive.Offer> withSeats(String person) {
        return turn(person)
                .flatMap(
                        turn -> new SeatsToGive(setting.engine(), after::order, seatsAreKnown).in(turn.news(), person));
    }
}
