package yoru.standins.community;

import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.springframework.context.annotation.Profile;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;

/** Groups and areas with their members, for looking and for changing by hand. */
@Controller
@Profile("community")
class CommunityPages {

    private final Members members;

    CommunityPages(Members members) {
        this.members = members;
    }

    record Shown(String kind, String place, String title, int size, List<Members.Member> members) {}

    @GetMapping("/")
    String home(@RequestParam(defaultValue = "") String q, Model model) {
        model.addAttribute("q", q);
        model.addAttribute("count", members.count());
        model.addAttribute(
                "places",
                Stream.of("Groups", "Areas")
                        .flatMap(kind -> members.places(kind).stream())
                        .map(place -> shown(place, q.strip().toLowerCase(Locale.ROOT)))
                        .toList());
        return "community/home";
    }

    private Shown shown(Members.MeetingPlace place, String words) {
        var all = members.membersOf(place.id());
        return new Shown(
                place.kind(),
                place.id(),
                place.title(),
                all.size(),
                all.stream()
                        .filter(member -> (member.userName() + " " + member.name())
                                .toLowerCase(Locale.ROOT)
                                .contains(words))
                        .limit(20)
                        .toList());
    }

    @PostMapping("/{kind:Groups|Areas}/{id}/members")
    String change(
            @PathVariable String kind,
            @PathVariable String id,
            @RequestParam String email,
            @RequestParam(defaultValue = "true") boolean in) {
        var place = members.place(kind, id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "no such place"));
        var member = members.named(email.strip())
                .or(() -> members.make(email.strip(), email.strip()))
                .orElseThrow();
        if (in) {
            members.join(place.id(), member.id());
        } else {
            members.leave(place.id(), member.id());
        }
        return "redirect:/";
    }

    @GetMapping("/practice/progress")
    @ResponseBody
    String progress() {
        return String.valueOf(members.count());
    }
}
