package yoru.core.systems;

import java.util.Optional;
import yoru.core.rulebook.Target;

/** Something that a connected system can do. Yoru asks a system only for what it declares. */
public enum Ability {
    /** Keeps accounts that must be there before anything else of a person. */
    ACCOUNTS,
    /** Lets people into courses and suspends them, keeping what they have learnt. */
    ENROLMENT,
    /** Lets people into single sections of a course. */
    SECTIONS,
    GROUPS,
    AREAS,
    DOWNLOADS,
    LISTS,
    TAGS,
    /** Keeps further fields of a person. */
    FIELDS,
    /** Carries messages to people. */
    MESSAGES,
    /** Lists what it sells, teaches or keeps. */
    CATALOGUE,
    /** Lists who has what, so that it can be compared. */
    LISTING,
    /** Takes events about what Yoru did and learnt. */
    EVENTS,
    /** Charges methods of payment that people left with it. */
    CHARGING,
    /** Makes discount codes. */
    CODES,
    /** Says at closed doors what it is told, and lands people where it is told. */
    DOORS,
    /** Says after buying what it is told. */
    AFTER;

    /** What a system must be able to do for people to have the target there; levels are Yoru's own. */
    public static Optional<Ability> neededFor(Target target) {
        return switch (target) {
            case Target.OfCourse _ -> Optional.of(ENROLMENT);
            case Target.OfSection _ -> Optional.of(SECTIONS);
            case Target.OfGroup _ -> Optional.of(GROUPS);
            case Target.OfArea _ -> Optional.of(AREAS);
            case Target.OfDownload _ -> Optional.of(DOWNLOADS);
            case Target.OfList _ -> Optional.of(LISTS);
            case Target.OfTag _ -> Optional.of(TAGS);
            case Target.OfLevel _ -> Optional.empty();
        };
    }
}
