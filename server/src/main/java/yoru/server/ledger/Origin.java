package yoru.server.ledger;

/** Where a fact comes from. What of it is kept with the fact names nobody; names stand in the journal. */
public sealed interface Origin {

    /** A connected system reported it, or it was found there. */
    record OfSystem(String connection) implements Origin {}

    /** Somebody who works with Yoru entered it. */
    record OfOperator(String name) implements Origin {}

    /** Somebody outside did it on a page of Yoru's. */
    record OfVisitor(String person) implements Origin {}

    /** It came in a file, with the past of a school. */
    record OfFile() implements Origin {}

    /** Yoru says it, as the school decided beforehand. */
    record OfYoru(String why) implements Origin {}

    /** Who is said to have done it. */
    default String actor() {
        return switch (this) {
            case OfSystem it -> it.connection;
            case OfOperator it -> it.name;
            case OfVisitor it -> it.person;
            case OfFile _ -> "file";
            case OfYoru it -> it.why;
        };
    }

    /** What is kept with a fact. */
    enum Sort {
        SYSTEM,
        OPERATOR,
        VISITOR,
        FILE,
        YORU
    }

    default Sort sort() {
        return switch (this) {
            case OfSystem _ -> Sort.SYSTEM;
            case OfOperator _ -> Sort.OPERATOR;
            case OfVisitor _ -> Sort.VISITOR;
            case OfFile _ -> Sort.FILE;
            case OfYoru _ -> Sort.YORU;
        };
    }
}
