package yoru.server.reception;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface HeldReports extends JpaRepository<HeldReport, Long> {

    Optional<HeldReport> findBySourceAndEventId(String source, String eventId);

    Optional<HeldReport> findFirstByAboutAndStateNotOrderById(String about, HeldReport.State state);

    /** Those about some things that were not let in, and those of some events. */
    @Query("""
            select h from HeldReport h
            where h.about in :things and h.state <> yoru.server.reception.HeldReport.State.RELEASED
               or h.source in :sources and h.eventId in :events""")
    List<HeldReport> about(Collection<String> things, Collection<String> sources, Collection<String> events);

    List<HeldReport> findByAboutAndStateOrderByHappenedAtAscIdAsc(String about, HeldReport.State state);

    /** What waits, the longest waiting first, each once. */
    @Query("""
            select h.about from HeldReport h where h.state = yoru.server.reception.HeldReport.State.HELD
            group by h.about order by min(h.id)""")
    List<String> waiting(Limit limit);

    @Query("""
            select distinct h.about from HeldReport h
            where h.subject = :address and h.state = yoru.server.reception.HeldReport.State.HELD
            and h.why = yoru.server.reception.HeldReport.Why.GUEST order by h.about""")
    List<String> guestsOrders(String address);

    @Query(
            "select count(distinct h.about) from HeldReport h where h.state = yoru.server.reception.HeldReport.State.HELD")
    int countCases();

    List<HeldReport> findByAboutInAndStateOrderByHappenedAtAscIdAsc(List<String> about, HeldReport.State state);

    /** @param before when the first report came at the latest */
    @Query("""
            select count(distinct h.about) from HeldReport h
            where h.state = yoru.server.reception.HeldReport.State.HELD and h.why = :why and h.receivedAt < :before""")
    int waiting(HeldReport.Why why, Instant before);

    /** @param people a JSON array of keys; whatever names one of them goes */
    @Modifying
    @Query(value = """
                    delete from held_report
                    where names_any(subject || body, cast(:people as jsonb))""", nativeQuery = true)
    void forgetPeople(String people);
}
