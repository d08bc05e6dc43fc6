package yoru.server.deliveries;

/**
 * What one system is told about one person, in the queue as {@code connection/person@version}. Each new wish makes a new
 * version; whoever works on an older one leaves it.
 */
record Lane(String connection, long person, int version) {

    /** A lane, whatever its version. */
    record Key(String connection, long person) {}

    Key key() {
        return new Key(connection, person);
    }

    static Lane read(String id) {
        int slash = id.lastIndexOf('/');
        int at = id.indexOf('@', slash);
        return new Lane(
                id.substring(0, slash),
                Long.parseLong(id.substring(slash + 1, at)),
                Integer.parseInt(id.substring(at + 1)));
    }

    @Override
    public String toString() {
        return connection + "/" + person + "@" + version;
    }
}
