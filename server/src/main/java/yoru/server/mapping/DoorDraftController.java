package yoru.server.mapping;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import yoru.core.doors.DoorChange;
import yoru.core.doors.Doors;
import yoru.core.doors.Sign;
import yoru.core.doors.Thanks;
import yoru.core.rulebook.Door;
import yoru.core.rulebook.Door.Side;
import yoru.core.rulebook.Rulebook;
import yoru.core.rulebook.Target;
import yoru.server.doors.SchoolDoors;
import yoru.server.platform.SchoolSettings;
import yoru.server.rulebooks.Rulebooks;

/** What people will meet at doors and after buying under a draft. */
@RestController
class DoorDraftController {

    private final Rulebooks rulebooks;
    private final Consequences consequences;
    private final SchoolDoors doors;
    private final SchoolSettings settings;

    DoorDraftController(Rulebooks rulebooks, Consequences consequences, SchoolDoors doors, SchoolSettings settings) {
        this.settings = settings;
        this.rulebooks = rulebooks;
        this.consequences = consequences;
        this.doors = doors;
    }

    /** @param changes what is met otherwise than now, each place and side once */
    record DoorChanges(List<DoorChange> changes) {}

    @PostMapping("/api/mapping/doors")
    DoorChanges changes(@Valid @RequestBody Draft draft) {
        var now = rulebooks.overTodaysCatalogue();
        return new DoorChanges(doors.changes(now.rulebook(), consequences.rulebook(now, draft.wanted())));
    }

    record DoorAsked(
            @NotNull @Valid Draft draft,

            @NotNull @Size(max = 420) @Pattern(regexp = "school|(product|course|level|area)/.+|section/.+/.+")
            String place) {}

    /**
     * What is met at one place, with everything that the draft leaves to wider places.
     *
     * @param page where Yoru itself says so, for systems that can only send people on; none = it has none
     */
    record DoorMet(
            @Nullable String page,
            @Nullable SignMet visitor,
            @Nullable SignMet without,
            @Nullable ThanksMet bought) {}

    /** @param redirect where people are sent instead of reading it */
    record SignMet(String text, @Nullable String redirect, List<WayMet> ways, List<String> besides) {}

    record WayMet(String title, String price, String basket) {}

    record ThanksMet(
            String text,
            @Nullable String button,
            @Nullable String address,
            @Nullable String redirect,
            boolean lists) {}

    /** At the school's own door what a course that says nothing itself would show is met. */
    @PostMapping("/api/mapping/door")
    DoorMet met(@Valid @RequestBody DoorAsked asked) {
        var rulebook = consequences.rulebook(rulebooks.overTodaysCatalogue(), asked.draft.wanted());
        var now = doors.under(rulebook);
        return Door.productOf(asked.place)
                .map(product -> new DoorMet(null, null, null, thanks(now, rulebook, product)))
                .or(() -> Door.targetOf(asked.place).map(place -> closed(now, place, pageOf(place))))
                .orElseGet(() -> ofTheSchool(now, rulebook));
    }

    /** At a course that says nothing itself. */
    private static DoorMet ofTheSchool(Doors doors, Rulebook rulebook) {
        return rulebook.courses().stream()
                .map(course -> new Target.OfCourse(course.id()))
                .filter(course ->
                        rulebook.doors().stream().noneMatch(door -> door.place().equals(course.path())))
                .findFirst()
                .map(course -> closed(doors, course, null))
                .orElse(new DoorMet(null, null, null, null));
    }

    private @Nullable String pageOf(Target place) {
        return switch (place) {
            case Target.OfCourse it -> settings.publicAddress() + "/door/" + it.course();
            case Target.OfArea _, Target.OfLevel _ -> settings.publicAddress() + "/door/" + place.path();
            case Target.OfSection _, Target.OfTag _, Target.OfGroup _, Target.OfDownload _, Target.OfList _ -> null;
        };
    }

    private static DoorMet closed(Doors doors, Target place, @Nullable String page) {
        return new DoorMet(page, met(doors.closed(Side.VISITOR, place)), met(doors.closed(Side.WITHOUT, place)), null);
    }

    private static SignMet met(Sign sign) {
        return new SignMet(
                sign.text(),
                sign.redirectOrNone(),
                sign.ways().stream()
                        .map(way -> new WayMet(
                                way.offer().title(), way.price(), way.offer().basket()))
                        .toList(),
                sign.besides());
    }

    private static @Nullable ThanksMet thanks(Doors doors, Rulebook rulebook, String product) {
        return rulebook.product(product)
                .map(known -> {
                    var option = known.options().stream()
                            .findFirst()
                            .map(it -> it.id())
                            .orElse(null);
                    return thanks(doors.bought(known, option));
                })
                .orElse(null);
    }

    private static ThanksMet thanks(Thanks thanks) {
        return new ThanksMet(
                thanks.note(),
                thanks.on().map(Thanks.Button::label).orElse(null),
                thanks.on().map(Thanks.Button::address).orElse(null),
                thanks.redirectOrNone(),
                thanks.lists());
    }
}
