package yoru.server.deliveries;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Query;
import yoru.server.deliveries.Deliveries.State;

interface DeliveryTable extends JpaRepository<Delivery, Long> {

    Optional<Delivery> findByConnectionIdAndPersonIdAndCourse(String connectionId, long personId, String course);

    List<Delivery> findByPersonIdOrderByCourse(long personId);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select d from Delivery d where d.id = :id")
    Optional<Delivery> lock(long id);

    /** Those that have failed at least once, the oldest first. */
    @Query(
            "select d from Delivery d where d.status <> :answered and d.failingSince is not null order by d.failingSince, d.id")
    List<Delivery> failing(State answered);

    @Query(
            "select d.connectionId as connection, d.status as status, count(d) as many from Delivery d group by d.connectionId, d.status")
    List<Tally> tally();

    /** How many deliveries of a connection stand how. */
    interface Tally {
        String getConnection();

        State getStatus();

        long getMany();
    }
}
