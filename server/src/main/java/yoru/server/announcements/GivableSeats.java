package yoru.server.announcements;

/** The secret addresses under which the seats of orders are given. */
public interface GivableSeats {

    /** Whether the buyer of an order has the address already. */
    boolean areKnown(String order);

    /** Makes it. */
    String address(String order);
}
