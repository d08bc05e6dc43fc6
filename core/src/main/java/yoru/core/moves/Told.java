package yoru.core.moves;

import yoru.core.access.HowLong;
import yoru.core.rulebook.Target;

/** That a target was open for a person when the systems were last told. */
public record Told(Target target, HowLong howLong) {}
