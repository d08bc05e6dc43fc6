package yoru.server.charges;

import jakarta.persistence.LockModeType;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Query;

interface OrderCharges extends JpaRepository<OrderCharge, String> {

    List<OrderCharge> findByPersonKeyIn(Collection<String> people);

    List<OrderCharge> findByStateOrderByAskedAt(OrderCharge.State state);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select c from OrderCharge c where c.orderId = :order")
    Optional<OrderCharge> lock(String order);
}
