package yoru.standins.classroom;

import java.util.List;

/**
 * @param door {@code by-enrolment}, {@code free-sign-up} or {@code open-to-all}
 * @param soldHere whether the classroom sells it itself, beside the shop
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
        List<Section> sections) {

    record Section(String id, String title, String tier) {}

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
