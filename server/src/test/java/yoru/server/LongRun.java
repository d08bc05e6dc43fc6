package yoru.server;

/** Whether the tests were started with {@code ./yoru test --long}: all of what is otherwise a part of it. */
final class LongRun {

    static final boolean IS = "yes".equals(System.getenv("YORU_LONG"));

    private LongRun() {}
}
