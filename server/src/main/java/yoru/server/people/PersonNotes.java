package yoru.server.people;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface PersonNotes extends JpaRepository<PersonNote, Long> {

    void deleteByPersonIdIn(Collection<Long> people);

    List<PersonNote> findByPersonIdAndAtLessThanEqualOrderByIdDesc(long personId, Instant at);
}
