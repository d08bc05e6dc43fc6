package yoru.server.accounts;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Query;

interface PasskeyTable extends JpaRepository<Passkey, UUID> {

    /** So that two who have copied the same key do not both get in with the same count. */
    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select p from Passkey p where p.credentialId = :credentialId")
    Optional<Passkey> lockByCredentialId(byte[] credentialId);

    List<Passkey> findByOperatorIdOrderByAddedAt(UUID operatorId);

    long countByOperatorId(UUID operatorId);

    long deleteByCredentialId(byte[] credentialId);

    long deleteByIdAndOperatorId(UUID id, UUID operatorId);

    long deleteByOperatorId(UUID operatorId);
}
