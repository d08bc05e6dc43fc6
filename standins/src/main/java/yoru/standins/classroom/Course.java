package yoru.standins.classroom;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.Arrays;
import java.util.List;

/**
 * @param door {@code by-enrolment}, {@code free-sign-up} or {@code open-to-all}
 * @param soldHere whether the classroom sells it itself, beside the shop
 * @param soldAs products of the shop that open it, as the keeper wrote them down
 */
record Course(
        String id,
        String title,
        String category,
        boolean content,
        boolean published,
        String door,
        boolean soldHere,
        String about,
        @JsonIgnore String soldAs,
        List<Section> sections) {

    record Section(String id, String title, String tier) {}

    List<String> waysToBuy() {
        return Arrays.stream(soldAs.split(",", -1))
                .map(String::strip)
                .filter(product -> !product.isEmpty())
                .toList();
    }

    boolean isOpenToAll() {
        return door.equals("open-to-all");
    }

    boolean isFreeSignUp() {
        return door.equals("free-sign-up");
    }

    boolean isByEnrolment() {
        return door.equals("by-enrolment");
    }
}
