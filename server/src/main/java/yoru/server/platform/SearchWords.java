package yoru.server.platform;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Words that somebody searches for, as SQL's {@code like … escape '!'} takes them. */
public final class SearchWords {

    private SearchWords() {}

    /** In small letters, anywhere in a text; empty where nothing is searched for. */
    public static String anywhere(@Nullable String words) {
        return words == null || words.isBlank()
                ? ""
                : "%" + escaped(words.replace("\0", "").strip().toLowerCase(Locale.ROOT)) + "%";
    }

    private static String escaped(String words) {
        return words.replace("!", "!!").replace("%", "!%").replace("_", "!_");
    }
}
