package yoru.core.systems;

import yoru.core.rulebook.Target;

/** What a system is told about. */
public sealed interface Matter {

    String FIELD = "field/";
    String CODE = "code/";

    /** That somebody should have an account, under this name. */
    record Account() implements Matter {}

    /** That somebody should, or should not, have something. */
    record Access(Target target) implements Matter {}

    /** What a field of somebody should say; the content is the value. */
    record Field(String name) implements Matter {}

    /** A letter to somebody, once. */
    record Letter(String id) implements Matter {}

    /** That something happened, once. */
    record Event(String id) implements Matter {}

    /** A discount code of somebody's own, made once. */
    record Code(String id) implements Matter {}

    /** As it is kept. */
    default String path() {
        return switch (this) {
            case Account _ -> "account";
            case Access it -> it.target.path();
            case Field it -> FIELD + it.name;
            case Letter it -> "letter/" + it.id;
            case Event it -> "event/" + it.id;
            case Code it -> CODE + it.id;
        };
    }

    /** Whether it is a state that can be stated again, and not something that is sent once. */
    default boolean isState() {
        return switch (this) {
            case Account _, Access _, Field _ -> true;
            case Letter _, Event _, Code _ -> false;
        };
    }

    /** What {@link #path()} wrote. */
    static Matter read(String path) {
        if (path.equals("account")) {
            return new Account();
        }
        if (path.startsWith(FIELD)) {
            return new Field(path.substring(FIELD.length()));
        }
        if (path.startsWith("letter/")) {
            return new Letter(path.substring("letter/".length()));
        }
        if (path.startsWith(CODE)) {
            return new Code(path.substring(CODE.length()));
        }
        return path.startsWith("event/") ? new Event(path.substring("event/".length())) : new Access(Target.read(path));
    }
}
