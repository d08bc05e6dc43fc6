package yoru.server.platform;

import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface WrongCodeTable extends JpaRepository<WrongCode, String> {

    @Modifying
    @Query("delete from WrongCode w where w.since < :since")
    void forget(Instant since);

    /** Counts a failure, from one again where the last ones are older than {@code since}. @return how many there are */
    @Query(value = """
                    insert into claim_failure (origin, failures, since) values (:origin, 1, :now)
                    on conflict (origin) do update set
                      failures = case when claim_failure.since < :since then 1 else claim_failure.failures + 1 end,
                      since = case when claim_failure.since < :since then :now else claim_failure.since end
                    returning failures""", nativeQuery = true)
    int failed(String origin, Instant now, Instant since);

    @Query(
            value =
                    "select count(*) from claim_failure where origin = :origin and failures >= :most and since >= :since",
            nativeQuery = true)
    int isStopped(String origin, int most, Instant since);
}
