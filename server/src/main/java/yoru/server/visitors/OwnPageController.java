package yoru.server.visitors;

import java.security.Principal;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The links to people's own pages, as somebody at the school sees to them. */
@RestController
class OwnPageController {

    private final OwnPageLinks links;

    OwnPageController(OwnPageLinks links) {
        this.links = links;
    }

    @PostMapping("/api/people/{id}/own-page/revoke")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void revoke(@PathVariable long id, @AuthenticationPrincipal Principal operator) {
        links.revoke(id, operator.getName());
    }
}
