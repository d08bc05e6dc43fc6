package yoru.server.systems;

/** A system was switched on: it has to be told everything that should be so there. */
public record SystemSwitchedOn(String connection) {}
