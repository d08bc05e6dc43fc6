package yoru.core.access;

import yoru.core.rulebook.Target;

/** What one holding gives through one link to one target. */
public record Entitlement(String person, Target target, Window window, Reason reason) {}
