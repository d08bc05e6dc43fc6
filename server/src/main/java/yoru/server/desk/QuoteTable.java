package yoru.server.desk;

import jakarta.persistence.LockModeType;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface QuoteTable extends JpaRepository<Quote, Long> {

    Optional<Quote> findByKey(String key);

    int countByState(Quote.State state);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select q from Quote q where q.id = :id")
    Optional<Quote> lock(long id);

    /** @param people a JSON array of keys; quotes that name one of them go */
    @Modifying
    @Query(value = """
                    delete from quote
                    where names_any(person_key || cast(sheet as text), cast(:people as jsonb))""", nativeQuery = true)
    void forgetPeople(String people);
}
