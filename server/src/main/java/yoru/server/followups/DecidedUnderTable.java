package yoru.server.followups;

import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface DecidedUnderTable extends JpaRepository<DecidedUnder, Long> {

    List<DecidedUnder> findByPersonIdIn(Collection<Long> people);

    @Modifying
    @Query(value = """
                    insert into followup_person (person_id, rulebook)
                    select p.id, :rulebook from person p where p.id in (:people) order by 1
                    on conflict (person_id) do update set rulebook = excluded.rulebook""", nativeQuery = true)
    void keep(Collection<Long> people, int rulebook);

    @Modifying
    @Query("delete from DecidedUnder d where d.personId in :people")
    void forget(Collection<Long> people);
}
