package yoru.formats;

import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A change of one thing of a rulebook that is no link.
 *
 * @param thing {@code level/keeper}, {@code product/QUEEN}, {@code school/opensOn}, …: the sort, a slash, the id
 * @param to as the thing stands in the document, its id left out or the same; none = it is not there any more
 */
public record ThingChange(String thing, @Nullable JsonNode to) {}
