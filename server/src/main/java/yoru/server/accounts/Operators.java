package yoru.server.accounts;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import yoru.server.platform.ProblemException;

interface Operators extends JpaRepository<Operator, UUID> {

    Optional<Operator> findByEmail(String email);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select o from Operator o where o.email = :email")
    Optional<Operator> lockByEmail(String email);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select o from Operator o where o.id = :id")
    Optional<Operator> lockById(UUID id);

    @Query("select o.role from Operator o where o.email = :email and o.passwordStamp = :passwordStamp")
    Optional<Role> roleOf(String email, int passwordStamp);

    /** @throws ProblemException when there is nobody of that id */
    default Operator known(UUID id) {
        return findById(id).orElseThrow(Operators::nobody);
    }

    /** The account of who is signed in, which nobody else changes meanwhile. */
    default Operator lock(SignedIn who) {
        return lockByEmail(who.email()).orElseThrow(() -> ProblemException.notFound("You are no longer in the team."));
    }

    static ProblemException nobody() {
        return ProblemException.notFound("Nobody of that id is in the team.");
    }

    List<Operator> findAllByOrderByName();

    long countByRole(Role role);

    /** So that two first owners cannot be made at once. */
    @Modifying
    @Query(value = "lock table operator in exclusive mode", nativeQuery = true)
    void lockAll();
}
