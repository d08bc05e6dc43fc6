package yoru.standins.classroom;

import org.springframework.context.annotation.Profile;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import yoru.standins.practice.ShowingApi;
import yoru.standins.practice.Showings;

/** What the classroom says at its doors, and where people land who sign in. */
@RestController
@Profile("classroom")
@RequestMapping("/api/doors")
class DoorApi extends ShowingApi {

    DoorApi(Showings showings, ClassroomSettings settings) {
        super(showings, settings.token());
    }
}
