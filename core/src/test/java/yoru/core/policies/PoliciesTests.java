package yoru.core.policies;

import static org.assertj.core.api.Assertions.assertThat;
import static yoru.core.policies.Policies.Verdict.HOLD_EARLY;
import static yoru.core.policies.Policies.Verdict.HOLD_GUEST;
import static yoru.core.policies.Policies.Verdict.HOLD_UNKNOWN;
import static yoru.core.policies.Policies.Verdict.SKIP_UNKNOWN;
import static yoru.core.policies.Policies.Verdict.TAKE;

import java.time.Instant;
import java.time.Period;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import yoru.core.Shop;
import yoru.core.World;
import yoru.core.ledger.Fact;
import yoru.core.ledger.Happening;
import yoru.core.policies.Policies.Guests;
import yoru.core.policies.Policies.Introduction;
import yoru.core.policies.Policies.Joining;
import yoru.core.policies.Policies.UnknownContacts;
import yoru.core.time.SchoolCalendar;

class PoliciesTests {

    private static final Introduction GUEST = new Introduction(true, Optional.empty());
    private static final Introduction MEMBER = new Introduction(false, Optional.empty());
    private static final Policies STRICT =
            new Policies(Guests.HOLD, UnknownContacts.HOLD, Joining.SAME_VERIFIED_ADDRESS, null);
    private static final Fact ORDER =
            new Shop().placed("1", "ada@post.example", Shop.MARCH, Shop.line("1", "QUEEN", "180.00"));
    private static final Fact TAG =
            new Shop().fact("ada@post.example", Shop.MARCH, new Happening.TagAdded("beekeeper"));

    @Test
    void aGuestAndAnUnknownContactWaitOnlyWhereTheSchoolSaysSo() {
        assertThat(STRICT.on(ORDER, GUEST, () -> false, () -> true)).isEqualTo(HOLD_GUEST);
        assertThat(STRICT.on(ORDER, MEMBER, () -> false, () -> true)).isEqualTo(TAKE);
        assertThat(STRICT.on(TAG, MEMBER, () -> false, () -> true)).isEqualTo(HOLD_UNKNOWN);
        assertThat(Policies.DEFAULT.on(ORDER, GUEST, () -> false, () -> true)).isEqualTo(TAKE);
        assertThat(Policies.DEFAULT.on(TAG, MEMBER, () -> false, () -> true)).isEqualTo(TAKE);
        assertThat(new Policies(Guests.HOLD, UnknownContacts.SKIP, Joining.ASK, null)
                        .on(TAG, MEMBER, () -> false, () -> true))
                .isEqualTo(SKIP_UNKNOWN);
    }

    @Test
    void aPaymentThatOvertakesItsOrderWaitsForItWhereGuestsAreHeld() {
        var paid = new Shop().paid("1", "ada@post.example", Shop.MARCH);
        assertThat(STRICT.on(paid, MEMBER, () -> false, () -> false)).isEqualTo(HOLD_EARLY);
        assertThat(STRICT.on(paid, MEMBER, () -> false, () -> true)).isEqualTo(TAKE);
        assertThat(STRICT.on(paid, MEMBER, () -> true, () -> false)).isEqualTo(TAKE);
        assertThat(Policies.DEFAULT.on(paid, MEMBER, () -> false, () -> false)).isEqualTo(TAKE);
    }

    /** Whatever is said of somebody known is a fact, and by default everything is: no policy, no change. */
    @Test
    void nothingOfSomebodyKnownEverWaits() {
        for (long seed = 0; seed < 200; seed++) {
            for (Fact fact : World.of(seed).facts()) {
                assertThat(STRICT.on(fact, GUEST, () -> true, () -> false)).isEqualTo(TAKE);
                assertThat(Policies.DEFAULT.on(fact, GUEST, () -> false, () -> false))
                        .isEqualTo(TAKE);
            }
        }
    }

    @Test
    void onlyAnAddressThatASystemHasVerifiedJoinsPeople() {
        var verified = new Introduction(false, Optional.of(" Ada@Post.example"));
        assertThat(STRICT.joins("customer-7", verified)).contains("ada@post.example");
        assertThat(STRICT.joins("ada@post.example", verified)).isEmpty();
        assertThat(STRICT.joins("customer-7", MEMBER)).isEmpty();
        assertThat(STRICT.joins("customer-7", new Introduction(false, Optional.of("no address"))))
                .isEmpty();
        assertThat(Policies.DEFAULT.joins("customer-7", verified)).isEmpty();
    }

    /** A month ends as RFC 7529 (SKIP=BACKWARD) has it. */
    @Test
    void aGiftEndsAfterThePeriodAsTheSchoolCountsIt() {
        var calendar = new SchoolCalendar(ZoneId.of("Europe/Dublin"));
        var monthly = new Policies(Guests.MAKE, UnknownContacts.MAKE, Joining.ASK, Period.ofMonths(1));
        assertThat(monthly.giftEnds(Instant.parse("2026-01-31T10:00:00Z"), calendar))
                .contains(Instant.parse("2026-02-28T10:00:00Z"));
        assertThat(monthly.giftEnds(Instant.parse("2026-03-15T10:00:00Z"), calendar))
                .as("over the change to summer time")
                .contains(Instant.parse("2026-04-15T09:00:00Z"));
        assertThat(List.of(Policies.DEFAULT.giftEnds(Shop.MARCH, calendar))).containsExactly(Optional.empty());
    }
}
