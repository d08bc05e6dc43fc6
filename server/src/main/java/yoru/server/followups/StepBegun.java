package yoru.server.followups;

/** A step begins that gives or takes something: the systems are to be told of its person. */
public record StepBegun(long step, long person) {}
