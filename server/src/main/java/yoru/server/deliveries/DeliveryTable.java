package yoru.server.deliveries;

import jakarta.persistence.LockModeType;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface DeliveryTable extends JpaRepository<Delivery, Long> {

    Optional<Delivery> findByConnectionIdAndPersonIdAndMatter(String connectionId, long personId, String matter);

    @Query("""
            select d from Delivery d join Person p on p.id = d.personId
            where d.connectionId = :connection and p.key = :person and d.matter = :matter""")
    Optional<Delivery> about(String connection, String person, String matter);

    List<Delivery> findByPersonIdOrderByMatter(long personId);

    /** All but what is sent once. */
    @Query("""
            select d from Delivery d
            where d.personId in :people and d.matter not like 'letter/%' and d.matter not like 'event/%'
              and d.matter not like 'code/%'
            order by d.matter""")
    List<Delivery> states(Collection<Long> people);

    @Query(
            "select d from Delivery d where d.personId = :person and d.matter like 'letter/%' order by d.wantedAt desc, d.id desc")
    List<Delivery> letters(long person);

    List<Delivery> findByPersonIdInAndMatterIn(Collection<Long> people, Collection<String> matters);

    boolean existsByPersonIdAndStatusNot(long personId, DeliveryState answered);

    @Modifying
    @Query("delete from Delivery d where d.personId in :people")
    void forget(Collection<Long> people);

    @Modifying
    @Query(value = "delete from lane where person_id in (:people)", nativeQuery = true)
    void forgetLanes(Collection<Long> people);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select d from Delivery d where d.id = :id")
    Optional<Delivery> lock(long id);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select d from Delivery d where d.id in :ids order by d.id")
    List<Delivery> lock(Collection<Long> ids);

    /**
     * What systems still have to be told, of each lane the account first, then as it came.
     *
     * @param lanes a JSON array of objects with {@code connection} and {@code person}
     */
    @Query(value = """
                    select d.* from delivery d join jsonb_array_elements(cast(:lanes as jsonb)) r
                      on d.connection_id = r ->> 'connection' and d.person_id = cast(r ->> 'person' as bigint)
                    where d.status = 'WAITING'
                    order by case when d.matter = 'account' then 0 else 1 end, d.wanted_at, d.id""", nativeQuery = true)
    List<Delivery> waiting(String lanes);

    /** Those of some people of whom a system still has to be told something. */
    @Query("""
            select distinct d.personId from Delivery d
            where d.connectionId = :connection and d.personId in :people and d.status = :waiting""")
    List<Long> waiting(String connection, Collection<Long> people, DeliveryState waiting);

    /** Of what waits and was never tried, though it was to be by then: how much in which system, and since when. */
    @Query("""
            select d.connectionId as connection, d.status as status, count(d) as many, min(d.wantedAt) as oldest
            from Delivery d where d.status = :waiting and d.attempts = 0 and d.wantedAt < :before
            group by d.connectionId, d.status""")
    List<Tally> untried(DeliveryState waiting, Instant before);

    @Query("select d.personId from Delivery d where d.id = :id")
    Optional<Long> personOf(long id);

    /** Those of one system that have failed at least once, in the order in which they are to be locked. */
    @Query("""
            select d.id as id, d.personId as person from Delivery d
            where d.connectionId = :connection and d.status <> :answered and d.failingSince is not null
            order by d.personId, d.id""")
    List<OfPerson> failing(String connection, DeliveryState answered);

    /** Whose a delivery is. */
    interface OfPerson {
        long getId();

        long getPerson();
    }

    /** Those that have failed at least once, the oldest first. */
    @Query(
            "select d from Delivery d where d.status <> :answered and d.failingSince is not null order by d.failingSince, d.id")
    List<Delivery> failing(DeliveryState answered);

    long countByConnectionIdAndStatusNotAndFailingSinceIsNotNull(String connectionId, DeliveryState answered);

    @Query(
            "select d.connectionId as connection, d.status as status, count(d) as many, min(d.wantedAt) as oldest from Delivery d group by d.connectionId, d.status")
    List<Tally> tally();

    /** How many deliveries of a connection stand how, and since when the oldest is wanted. */
    interface Tally {
        String getConnection();

        DeliveryState getStatus();

        long getMany();

        Instant getOldest();
    }

    @Query(
            "select count(d) from Delivery d where d.connectionId = :connection and d.status = :answered and d.lastAnswerAt >= :since")
    long answeredSince(String connection, DeliveryState answered, Instant since);

    /** How often each system answered in each of the last 24 hours; hours without are left out. */
    @Query(value = """
                    select connection_id as connection,
                      cast(extract(epoch from (cast(:now as timestamptz) - last_answer_at)) as integer) / 3600 as ago, count(*) as many
                    from delivery where connection_id in :connections and status = 'ANSWERED'
                      and last_answer_at > cast(:now as timestamptz) - interval '24 hours' and last_answer_at <= :now
                    group by 1, 2""", nativeQuery = true)
    List<Hour> answeredByHour(Collection<String> connections, Instant now);

    interface Hour {
        String getConnection();

        int getAgo();

        int getMany();
    }

    @Query("select max(d.lastAnswerAt) from Delivery d where d.connectionId = :connection and d.status = :answered")
    Optional<Instant> lastAnswered(String connection, DeliveryState answered);

    @Query(
            "select d from Delivery d where d.connectionId = :connection and d.trouble is not null and d.lastAnswerAt is not null order by d.lastAnswerAt desc limit 1")
    Optional<Delivery> lastTrouble(String connection);

    @Query("""
            select d from Delivery d where d.connectionId = :connection and d.status <> :answered
            order by case when d.failingSince is null then 1 else 0 end, d.failingSince, d.wantedAt, d.id limit :most""")
    List<Delivery> open(String connection, DeliveryState answered, int most);

    @Query(
            "select d from Delivery d where d.connectionId = :connection and d.status = :answered order by d.lastAnswerAt desc")
    List<Delivery> latest(String connection, DeliveryState answered, Limit limit);

    /** What is wanted in a system, for the people in [from, to] by key. */
    @Query(value = """
                    select p.person_key as person, d.matter as target, d.open as open, d.until as until, d.status as status,
                      d.last_answer_at as "answeredAt"
                    from delivery d join person p on p.id = d.person_id
                    where d.connection_id = :connection and p.person_key collate "C" > :after
                      and (cast(:to as text) is null or p.person_key collate "C" <= :to)
                      and d.matter <> 'account' and d.matter not like 'letter/%' and d.matter not like 'event/%'
                      and d.matter not like 'field/%' and d.matter not like 'code/%'
                      and not (d.status = 'ANSWERED' and d.last_answer is not distinct from :leftOut)""", nativeQuery = true)
    List<Wanted> wantedBetween(String connection, String after, @Nullable String to, String leftOut);

    /** What a system was not told because it does not know the person. */
    @Query(
            "select d from Delivery d where d.connectionId = :connection and d.personId = :person and d.lastAnswer = :leftOut")
    List<Delivery> leftOut(String connection, long person, String leftOut);

    /** A state that one system was told or is to be told. */
    interface Wanted {
        String getPerson();

        String getTarget();

        boolean getOpen();

        @Nullable
        Instant getUntil();

        DeliveryState getStatus();

        @Nullable
        Instant getAnsweredAt();
    }

    @Modifying
    @Query(
            "delete from Delivery d where d.status = :answered and d.lastAnswerAt < :before and (d.matter like 'letter/%' or d.matter like 'event/%' or d.matter like 'code/%')")
    int forgetSent(DeliveryState answered, Instant before);

    /** Letters and events in which a word stands, to whomever they went. */
    @Query(
            value = "select * from delivery where position(lower(:word) in lower(cast(content as text))) > 0",
            nativeQuery = true)
    List<Delivery> saying(String word);

    /** @param lanes each once, a JSON array of objects with {@code connection} and {@code person} */
    @Query(value = """
                    insert into lane (connection_id, person_id, version)
                    select r ->> 'connection', cast(r ->> 'person' as bigint), 1
                    from jsonb_array_elements(cast(:lanes as jsonb)) r order by 1, 2
                    on conflict (connection_id, person_id) do update set version = lane.version + 1
                    returning connection_id as "connection", person_id as "person", version as "version"
                    """, nativeQuery = true)
    List<Version> newVersions(String lanes);

    /** A lane and its version. */
    interface Version {
        String getConnection();

        long getPerson();

        int getVersion();
    }

    @Query(
            value = "select version from lane where connection_id = :connection and person_id = :person",
            nativeQuery = true)
    Optional<Integer> version(String connection, long person);

    /**
     * Holds those lanes at which nobody else is and of which nothing newer is wanted; whoever is locked is left out.
     *
     * @param lanes a JSON array of objects with {@code connection}, {@code person} and {@code version}
     */
    @Query(value = """
                    update lane set busy_until = :until
                    from (select l.connection_id, l.person_id from lane l join jsonb_array_elements(cast(:lanes as jsonb)) r
                            on l.connection_id = r ->> 'connection' and l.person_id = cast(r ->> 'person' as bigint)
                          where l.version = cast(r ->> 'version' as integer)
                            and (l.busy_until is null or l.busy_until < :now)
                          for update of l skip locked) free
                    where lane.connection_id = free.connection_id and lane.person_id = free.person_id
                    returning lane.connection_id as "connection", lane.person_id as "person", lane.version as "version"
                    """, nativeQuery = true)
    List<Version> claim(String lanes, Instant now, Instant until);

    /** @param lanes a JSON array of objects with {@code connection} and {@code person} */
    @Modifying
    @Query(value = """
                    update lane set busy_until = null
                    from jsonb_array_elements(cast(:lanes as jsonb)) r
                    where lane.connection_id = r ->> 'connection' and lane.person_id = cast(r ->> 'person' as bigint)
                    """, nativeQuery = true)
    void release(String lanes);

    @Modifying
    @Query(
            value = "update lane set busy_until = :until where connection_id = :connection and person_id = :person",
            nativeQuery = true)
    void hold(String connection, long person, Instant until);
}
