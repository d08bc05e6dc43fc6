package yoru.standins.practice;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Where a practice system is told how to behave. */
@Controller
class MannersPage {

    private static final int LONGEST_SECONDS = 120;

    private final Manners manners;
    private final String system;

    MannersPage(Manners manners, @Value("${practice.name}") String system) {
        this.manners = manners;
        this.system = system;
    }

    @GetMapping("/practice/manners")
    String show(Model model) {
        model.addAttribute("system", system);
        model.addAttribute("now", manners.now());
        return "manners";
    }

    /** A field that is left out means: well. */
    @PostMapping("/practice/manners")
    String change(
            @RequestParam(defaultValue = "0") int slowSeconds,
            @RequestParam(defaultValue = "false") boolean down,
            @RequestParam(defaultValue = "false") boolean busy,
            @RequestParam(defaultValue = "0") int faultyOneIn,
            @RequestParam(defaultValue = "false") boolean forgetful,
            @RequestParam(defaultValue = "false") boolean twice,
            @RequestParam(defaultValue = "0") int lateSeconds,
            @RequestParam(defaultValue = "false") boolean shuffled,
            @RequestParam(defaultValue = "false") boolean otherSecret) {
        manners.become(new Manners.Now(
                Math.clamp(slowSeconds, 0, LONGEST_SECONDS) * 1000,
                down,
                busy,
                Math.max(0, faultyOneIn),
                forgetful,
                twice,
                Math.clamp(lateSeconds, 0, LONGEST_SECONDS),
                shuffled,
                otherSecret));
        return "redirect:/practice/manners";
    }
}
