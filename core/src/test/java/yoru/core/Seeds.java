package yoru.core;

/**
 * On how many worlds by chance a property is tried: on all of them in {@code ./yoru test --long}, on the first quarter each
 * time. The system property {@code yoru.seeds} makes it another number.
 */
public final class Seeds {

    private static final boolean LONG = "yes".equals(System.getenv("YORU_LONG"));

    private Seeds() {}

    /** @param all how many they are in the long run */
    public static int of(int all) {
        return Integer.getInteger("yoru.seeds", LONG ? all : all / 4);
    }
}
