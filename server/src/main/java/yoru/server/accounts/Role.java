package yoru.server.accounts;

/** What somebody who works with Yoru may do; each may what those after it may. */
public enum Role {
    /** Also decides who works with Yoru. */
    OWNER,
    /** Also the mapping and the connected systems. */
    OPERATOR,
    /** People and orders. */
    SUPPORT,
    /** Looks at people and orders, and changes nothing. */
    READER;

    boolean isAtLeast(Role other) {
        return compareTo(other) <= 0;
    }
}
