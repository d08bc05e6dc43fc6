package yoru.server.people;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface PersonNotes extends JpaRepository<PersonNote, Long> {

    void deleteByPersonIdIn(Collection<Long> people);

    @Query("select n from PersonNote n where locate(lower(:word), lower(n.text)) > 0")
    List<PersonNote> saying(String word);

    List<PersonNote> findByPersonIdAndAtLessThanEqualOrderByIdDesc(long personId, Instant at);
}
