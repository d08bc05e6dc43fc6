package yoru.server.followups;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface FollowupRuns extends JpaRepository<FollowupRun, Long> {

    List<FollowupRun> findBySubjectIn(Collection<String> subjects);

    /** Those of a person, also under another key before they were joined; the latest first. */
    @Query("""
            select r from FollowupRun r
            where r.personId = :person or exists (select 1 from FollowupStep s where s.runId = r.id and s.personId = :person)
            order by r.moment desc, r.id desc""")
    List<FollowupRun> of(long person, Limit most);

    List<FollowupRun> findByOrderIdOrderByMomentDescIdDesc(String orderId);

    /** Whether a step of the run r cannot be carried out: a system does not take it, or there is none that could. */
    String HELD_UP = """
            exists (select 1 from followup_step s where s.run_id = r.id and s.state in ('DUE', 'BEGUN', 'GOING')
              and ((s.state = 'DUE' and s.note <> '') or s.failing))""";

    String OPEN = """
            exists (select 1 from followup_step s where s.run_id = r.id and s.state in ('DUE', 'BEGUN', 'GOING'))""";

    /**
     * The ids of runs, the latest first.
     *
     * @param followup of which; empty = of all
     * @param state as {@link RunList.RunState} names it; empty = any
     */
    @Query(
            value = "select r.id from followup_run r where (:followup = '' or r.followup = :followup) and case :state"
                    + " when '' then true when 'HELD_UP' then " + HELD_UP
                    + " when 'GOING' then " + OPEN + " and not " + HELD_UP
                    + " when 'STOPPED' then r.stopped_at is not null and not " + OPEN
                    + " when 'WAITING' then r.stopped_at is null and r.waits_until is not null and not " + OPEN
                    + " else r.stopped_at is null and r.waits_until is null and not " + OPEN
                    + " end order by r.moment desc, r.id desc limit :most offset :from",
            nativeQuery = true)
    List<Long> page(String followup, String state, int most, long from);

    /** The ids of runs of a follow-up that are under way or wait, the first first. */
    @Query(
            value = "select r.id from followup_run r where r.followup = :followup and r.stopped_at is null"
                    + " and (r.waits_until is not null or " + OPEN + ") order by r.id limit :most",
            nativeQuery = true)
    List<Long> underWay(String followup, int most);

    @Query(
            value = "select r.followup as followup, count(*) filter (where r.moment >= :since) as recent,"
                    + " count(*) filter (where " + OPEN + ") as going,"
                    + " count(*) filter (where r.stopped_at is null and r.waits_until is not null) as waiting,"
                    + " count(*) filter (where " + HELD_UP + ") as \"heldUp\", max(r.moment) as last"
                    + " from followup_run r group by r.followup",
            nativeQuery = true)
    List<Row> figures(Instant since);

    interface Row {
        String getFollowup();

        long getRecent();

        long getGoing();

        long getWaiting();

        long getHeldUp();

        @Nullable
        Instant getLast();
    }

    @Modifying
    @Query(
            "delete from FollowupStep s where s.personId in :people or s.runId in (select r.id from FollowupRun r where r.personId in :people)")
    void forgetSteps(Collection<Long> people);

    @Modifying
    @Query("delete from FollowupRun r where r.personId in :people")
    void forget(Collection<Long> people);
}
