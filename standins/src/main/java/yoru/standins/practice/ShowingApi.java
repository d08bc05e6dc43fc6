package yoru.standins.practice;

import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import tools.jackson.databind.JsonNode;
import yoru.standins.Standins;

/** Takes what the system is to show people, and tells it back; each system under a path of its own. */
public abstract class ShowingApi {

    private final Showings showings;
    private final String token;

    /** @param token lets others in */
    protected ShowingApi(Showings showings, String token) {
        this.showings = showings;
        this.token = token;
    }

    @PutMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    public void show(
            @RequestParam String of,
            @RequestBody JsonNode says,
            @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, token);
        showings.put(of, says);
    }

    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    public void showNothing(
            @RequestParam String of, @RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, token);
        showings.remove(of);
    }

    @GetMapping
    public Showings.All shown(@RequestHeader(name = "Authorization", defaultValue = "") String authorization) {
        Standins.letIn(authorization, token);
        return showings.all();
    }
}
