package yoru.e2e;

/** Whether the tests were started with {@code ./yoru test --long}: all of what is otherwise a seeded part of it. */
final class LongRun {

    static final boolean IS = "yes".equals(System.getenv("YORU_LONG"));

    /** For tests that are a part of it only. */
    static boolean is() {
        return IS;
    }

    private LongRun() {}
}
