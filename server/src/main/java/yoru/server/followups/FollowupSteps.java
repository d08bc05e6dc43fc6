package yoru.server.followups;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.data.domain.Pageable;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface FollowupSteps extends JpaRepository<FollowupStep, Long> {

    List<FollowupStep> findByRunIdInOrderByRunIdAscStretchAscNumberAsc(Collection<Long> runs);

    /** The runs of some people that have something left to do. */
    @Query("select distinct s.runId from FollowupStep s where s.personId in :people and s.state in :open")
    List<Long> openRuns(Collection<Long> people, Collection<StepState> open);

    /** Everybody who has a step that has something left to do. */
    @Query("select distinct s.personId from FollowupStep s where s.state in :open order by s.personId")
    List<Long> peopleWith(Collection<StepState> open);

    @Query("""
            select s from FollowupStep s where s.does like 'tell %' and s.state = :done and s.dueAt >= :since
            order by s.dueAt desc, s.id desc""")
    List<FollowupStep> told(StepState done, Instant since, Pageable most);

    /** What is not to be told to any system yet. */
    @Query("""
            select s from FollowupStep s join FollowupRun r on r.id = s.runId
            where r.subject in :subjects and s.state = :due""")
    List<FollowupStep> due(Collection<String> subjects, StepState due);
}
