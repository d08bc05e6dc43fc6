package yoru.core.rulebook;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** The sorts of things that a rulebook lists, in the order of its document. */
public enum Sort {
    COURSE("courses", Course.class),
    PRODUCT("products", Product.class),
    LEVEL("levels", Level.class),
    TAG("tags", Named.class),
    GROUP("groups", Named.class),
    AREA("areas", Named.class),
    DOWNLOAD("downloads", Named.class),
    LIST("lists", Named.class),
    TERMS("namedTerms", NamedTerms.class);

    private final String many;
    private final Class<? extends Thing> type;

    Sort(String many, Class<? extends Thing> type) {
        this.many = many;
        this.type = type;
    }

    /** As a thing of it is named in paths and messages: "course". */
    public String one() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The key of the document under which they stand: "courses". */
    public String many() {
        return many;
    }

    /** What a thing of it is as something to open; a product is not, and neither are terms. */
    public Optional<Target> target(String id) {
        return switch (this) {
            case COURSE -> Optional.of(new Target.OfCourse(id));
            case LEVEL -> Optional.of(new Target.OfLevel(id));
            case TAG -> Optional.of(new Target.OfTag(id));
            case GROUP -> Optional.of(new Target.OfGroup(id));
            case AREA -> Optional.of(new Target.OfArea(id));
            case DOWNLOAD -> Optional.of(new Target.OfDownload(id));
            case LIST -> Optional.of(new Target.OfList(id));
            case PRODUCT, TERMS -> Optional.empty();
        };
    }

    /** Whether there is no more to say of a thing of it than its name: the systems list which there are. */
    public boolean isOnlyNamed() {
        return type == Named.class;
    }

    Class<? extends Thing> type() {
        return type;
    }

    /** That which {@link #one()} names. */
    public static Optional<Sort> named(String one) {
        return Stream.of(values()).filter(sort -> sort.one().equals(one)).findFirst();
    }
}
