package yoru.server.restoring;

import jakarta.persistence.LockModeType;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;

interface RestoredTable extends JpaRepository<Restored, Long> {

    /** Locked, so that two servers that start together settle it once. */
    @Lock(LockModeType.PESSIMISTIC_WRITE)
    List<Restored> findBySettledAtIsNull();
}
