package yoru.server.segments;

import jakarta.persistence.LockModeType;
import java.util.Collection;
import java.util.List;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface TagRunTable extends JpaRepository<TagRun, String> {

    /** People as a JSON array of texts, for any text may stand in a key. */
    @Modifying
    @Query(value = """
                    insert into tag_run_person (run_id, person_key)
                    select :run, key from jsonb_array_elements_text(cast(:people as jsonb)) key
                    on conflict do nothing""", nativeQuery = true)
    void forPeople(String run, String people);

    @Query(
            value = "select person_key from tag_run_person where run_id = :run order by person_key limit :most",
            nativeQuery = true)
    List<String> next(String run, int most);

    @Modifying
    @Query(value = "delete from tag_run_person where run_id = :run and person_key = :person", nativeQuery = true)
    void isDone(String run, String person);

    @Modifying
    @Query(value = "delete from tag_run_person where person_key in (:people)", nativeQuery = true)
    void forgetPeople(Collection<String> people);

    @Modifying
    @Query(value = "delete from tag_run_person where run_id = :run", nativeQuery = true)
    void forgetRest(String run);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select r from TagRun r where r.id = :id")
    TagRun lock(String id);

    List<TagRun> findAllByOrderByStartedAtDesc(Limit limit);
}
