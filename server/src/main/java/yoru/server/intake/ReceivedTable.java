package yoru.server.intake;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import yoru.server.intake.Received.Outcome;

interface ReceivedTable extends JpaRepository<Received, Long> {

    /** Holds back the same report until the transaction ends. */
    @Query(value = "select cast(pg_advisory_xact_lock(hashtextextended(:report, 2)) as text)", nativeQuery = true)
    String oneAtATime(String report);

    Optional<Received> findByConnectionIdAndReportId(String connectionId, String reportId);

    List<Received> findByConnectionIdOrderByIdDesc(String connectionId, Limit limit);

    /** Those that are not taken up, in the order in which they came. */
    List<Received> findByConnectionIdAndOutcomeInOrderById(String connectionId, Collection<Outcome> outcomes);

    List<Received> findByConnectionIdAndOutcomeOrderByIdDesc(String connectionId, Outcome outcome, Limit limit);

    @Query(value = """
                    select * from received
                    where outcome = 'FAULTY' and lower(body || ' ' || said) like :words escape '!'
                    order by id desc limit :most""", nativeQuery = true)
    List<Received> untakenNaming(String words, int most);

    long countByConnectionIdAndOutcome(String connectionId, Outcome outcome);

    @Modifying
    @Query("delete from Received r where r.outcome = :taken and r.at < :before")
    int forget(Outcome taken, Instant before);

    /** @param people a JSON array of keys; whatever names one of them goes */
    @Modifying
    @Query(value = """
                    delete from received
                    where names_any(body || said, cast(:people as jsonb))""", nativeQuery = true)
    void forgetPeople(String people);
}
