package yoru.server.followups;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import yoru.core.rulebook.Target;
import yoru.core.systems.ConnectedSystem;
import yoru.core.systems.Landscape;
import yoru.core.systems.Matter;
import yoru.server.deliveries.Deliveries;
import yoru.server.deliveries.Deliveries.Progress;
import yoru.server.systems.Landscapes;

/** How far the systems are with what steps have them told. */
@Component
class StepProgress {

    /** Nobody has a larger team to write to. */
    private static final int MOST_MEMBERS = 50;

    private final Deliveries deliveries;
    private final Landscapes landscapes;

    StepProgress(Deliveries deliveries, Landscapes landscapes) {
        this.deliveries = deliveries;
        this.landscapes = landscapes;
    }

    List<Progress> of(FollowupStep step) {
        return of(step, landscapes.current());
    }

    List<Progress> of(FollowupStep step, Landscape landscape) {
        return of(List.of(step), landscape).getOrDefault(step.id(), List.of());
    }

    /** The same of many, by their ids, of the systems that are on. */
    Map<Long, List<Progress>> of(Collection<FollowupStep> steps, Landscape landscape) {
        var on = landscape.systems().stream()
                .filter(ConnectedSystem::isOn)
                .map(ConnectedSystem::id)
                .collect(Collectors.toSet());
        var people = steps.stream().map(step -> step.personId).collect(Collectors.toSet());
        var matters = steps.stream().flatMap(step -> matters(step).stream()).collect(Collectors.toSet());
        var told = deliveries.progress(people, matters).stream()
                .filter(it -> on.contains(it.connection()))
                .collect(Collectors.groupingBy(Progress::person));
        return steps.stream().collect(Collectors.toMap(FollowupStep::id, step -> {
            var its = matters(step);
            return told.getOrDefault(step.personId, List.of()).stream()
                    .filter(it -> its.contains(it.matter()))
                    .toList();
        }));
    }

    /** By which systems know what a step sends; the same at every try. */
    static String name(FollowupStep step) {
        return "followup-" + step.id();
    }

    /** The name of what is sent to the n-th of the team, from 1. */
    static String name(FollowupStep step, int n) {
        return name(step) + "-" + n;
    }

    /** What of it the systems are told, by its paths. */
    private static List<String> matters(FollowupStep step) {
        return switch (step.kind()) {
            case GIVE, TAKE -> List.of(new Matter.Access(Target.read(step.object())).path());
            case SET ->
                List.of(new Matter.Field(
                                step.object().substring(0, step.object().indexOf('=')))
                        .path());
            case WRITE -> List.of(new Matter.Letter(name(step)).path(), new Matter.Code(name(step)).path());
            case TELL ->
                Stream.concat(
                                Stream.of(new Matter.Event(name(step)).path()),
                                Stream.iterate(1, n -> n + 1)
                                        .limit(MOST_MEMBERS)
                                        .map(n -> new Matter.Letter(name(step, n)).path()))
                        .toList();
        };
    }
}
