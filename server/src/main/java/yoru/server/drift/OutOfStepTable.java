package yoru.server.drift;

import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import yoru.core.systems.Difference;

interface OutOfStepTable extends JpaRepository<OutOfStep, Long> {

    @Query(value = """
                    select * from out_of_step where connection_id = :connection and person_key collate "C" > :after
                      and (cast(:to as text) is null or person_key collate "C" <= :to)""", nativeQuery = true)
    List<OutOfStep> between(String connection, String after, @Nullable String to);

    List<OutOfStep> findByConnectionIdAndKindInOrderByKindAscTargetAscPersonKeyAsc(
            String connection, Collection<Difference.Kind> kinds, Limit limit);

    List<OutOfStep> findByConnectionIdAndTargetAndKindInOrderByKindAscPersonKeyAsc(
            String connection, String target, Collection<Difference.Kind> kinds, Limit limit);

    /** The first are three of the people, a line each. */
    @Query(value = """
                    select connection_id as connection, target, count(distinct person_key) as people,
                      array_to_string((array_agg(distinct person_key))[1 : 3], chr(10)) as first
                    from out_of_step where kind = 'EXTRA' and target like 'course/%'
                    group by connection_id, target""", nativeQuery = true)
    List<InCourse> withoutReason();

    /** How many people a system has in a course that Yoru does not want there. */
    interface InCourse {
        String getConnection();

        String getTarget();

        int getPeople();

        String getFirst();
    }

    List<OutOfStep> findByConnectionIdAndKind(String connection, Difference.Kind kind);

    List<OutOfStep> findByConnectionIdAndIdIn(String connection, Collection<Long> ids);

    @Modifying
    @Query("delete from OutOfStep o where o.personKey in :keys")
    void forget(Collection<String> keys);

    @Modifying
    @Query("delete from OutOfStep o where o.connectionId = :connection and o.checkId <> :check")
    void deleteOlder(String connection, long check);

    @Query("""
            select o.connectionId as connection, o.kind as kind, count(o) as many, count(distinct o.personKey) as people
            from OutOfStep o group by o.connectionId, o.kind""")
    List<Count> counts();

    /** How many differences of a kind a system has, and for how many people. */
    interface Count {
        String getConnection();

        Difference.Kind getKind();

        int getMany();

        int getPeople();
    }
}
