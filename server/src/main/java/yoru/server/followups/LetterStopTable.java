package yoru.server.followups;

import java.util.Collection;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface LetterStopTable extends JpaRepository<LetterStop, Long> {

    Optional<LetterStop> findByCode(String code);

    boolean existsByPersonIdInAndStoppedAtIsNotNull(Collection<Long> people);

    /** @return the one there is, where another server or request was first */
    @Query(value = """
                    insert into letter_stop (person_id, code) values (:person, :code)
                    on conflict (person_id) do update set code = letter_stop.code
                    returning letter_stop.*""", nativeQuery = true)
    LetterStop of(long person, String code);

    @Modifying
    @Query("delete from LetterStop s where s.personId in :people")
    void forget(Collection<Long> people);
}
