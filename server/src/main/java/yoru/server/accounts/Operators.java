package yoru.server.accounts;

import jakarta.persistence.LockModeType;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface Operators extends JpaRepository<Operator, UUID> {

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    Optional<Operator> findByEmail(String email);

    /** So that two first owners cannot be made at once. */
    @Modifying
    @Query(value = "lock table operator in exclusive mode", nativeQuery = true)
    void lockAll();
}
