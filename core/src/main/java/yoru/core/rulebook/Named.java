package yoru.core.rulebook;

/** Something in a connected system that people can be in or have: a tag, a group, an area, a download, a list. */
public record Named(String id, String title) implements Thing {}
