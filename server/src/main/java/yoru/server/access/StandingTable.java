package yoru.server.access;

import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface StandingTable extends JpaRepository<Standing, Long> {

    List<Standing> findByPersonId(long personId);

    List<Standing> findByPersonIdIn(Collection<Long> people);

    boolean existsByPersonId(long personId);
}
