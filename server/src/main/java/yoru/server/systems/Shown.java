package yoru.server.systems;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a system is to show people at one place. As JSON it is what the system is told and tells back (docs/connectors.md):
 * what is not said is left out.
 */
public sealed interface Shown {

    /** Text as CommonMark and as HTML in which nothing of the text is markup of its own. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record Panel(
            @Nullable String text,
            @Nullable String html,
            @Nullable String to,
            List<Way> ways,
            List<String> besides) {}

    /**
     * Something to buy that opens it.
     *
     * @param words the price as people read it
     */
    record Way(String title, String words, String price, String currency, String basket) {}

    /**
     * What is met at a closed door.
     *
     * @param visitor by somebody who is not signed in
     * @param without by somebody who is, and does not have it
     * @param landing where somebody lands who has signed in there
     * @param open parts that are open to more people than have the course; none = no such choice
     * @param help a page for whoever has bought it and cannot get in
     * @param courses what somebody with a level may open; of a level only
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record AtDoor(
            @Nullable Panel visitor,
            @Nullable Panel without,
            Landing landing,
            @Nullable Open open,
            @Nullable String help,
            @Nullable List<String> courses)
            implements Shown {}

    /** @param to none = the page of the place */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record Landing(boolean wantedFirst, @Nullable String to) {}

    /** @param who everybody, or signed-in */
    record Open(String who, List<String> sections) {}

    /**
     * What is met after buying.
     *
     * @param to where people are sent instead of reading it
     * @param page the page that lists all that was bought, with {@code {code}} for the order's code
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record AfterBuying(
            @Nullable String text,
            @Nullable String html,
            @Nullable Button button,
            @Nullable String to,
            boolean list,
            String page)
            implements Shown {}

    record Button(String label, String address) {}
}
