package yoru.server.access;

import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface OpeningTable extends JpaRepository<Opening, Long> {

    List<Opening> findByPersonIdInOrderByTargetAscOpensAtAsc(Collection<Long> people);

    @Modifying
    @Query("delete from Opening o where o.personId in :people")
    void deleteOf(Collection<Long> people);

    @Query(value = """
                    select day, sum(opened) as opened, sum(ended) as ended from (
                      select cast(opens_at at time zone :zone as date) as day, 1 as opened, 0 as ended
                        from opening where opens_at >= :from and opens_at < :to
                      union all
                      select cast(ends_at at time zone :zone as date), 0, 1
                        from opening where ends_at >= :from and ends_at < :to) days
                    group by day order by day""", nativeQuery = true)
    List<Day> days(Instant from, Instant to, String zone);

    /** What opened and ended on a day. */
    interface Day {
        LocalDate getDay();

        long getOpened();

        long getEnded();
    }

    @Query("select count(o) from Opening o where o.opensAt >= :from and o.opensAt < :to")
    long countOpened(Instant from, Instant to);

    @Query("select count(o) from Opening o where o.endsAt >= :from and o.endsAt < :to")
    long countEnded(Instant from, Instant to);

    /** How many people have a thing, will have it, had it; each counts once, in the first that is true. */
    @Query(value = """
                    select count(*) filter (where now) as now, count(*) filter (where later and not now) as later,
                           count(*) filter (where not now and not later) as before
                    from (select bool_or(opens_at <= :moment and (ends_at is null or ends_at > :moment)) as now,
                                 bool_or(opens_at > :moment) as later
                          from opening where target = :target group by person_id) people""", nativeQuery = true)
    HolderCount countHolders(String target, Instant moment);

    /** Of one thing. */
    interface HolderCount {
        long getNow();

        long getLater();

        long getBefore();
    }

    /** Windows that are open, the latest first. */
    @Query("""
                    select o from Opening o where o.target = :target and o.opensAt <= :moment
                      and (o.endsAt is null or o.endsAt > :moment) order by o.opensAt desc, o.id desc""")
    List<Opening> openAt(String target, Instant moment, Limit most);

    /** What a payment would have go on is not ending. */
    @Query(
            "select count(distinct o.personId) from Opening o where not o.renews and o.endsAt >= :from and o.endsAt < :to")
    long countPeopleEnding(Instant from, Instant to);

    /** Whoever has something at a time, by their numbers. */
    @Query("""
            select distinct o.personId from Opening o
            where o.target = :target and o.opensAt <= :at and (o.endsAt is null or o.endsAt > :at) order by o.personId""")
    List<Long> having(String target, Instant at);
}
