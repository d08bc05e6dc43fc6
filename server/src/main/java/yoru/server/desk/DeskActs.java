package yoru.server.desk;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface DeskActs extends JpaRepository<DeskAct, String> {

    List<DeskAct> findByOperatorIn(Collection<String> operators);

    /** @return 1 where the act is new; one that is being done at this moment is waited for */
    @Modifying
    @Query(value = """
                    insert into desk_act (key, at, operator, fingerprint) values (:key, :at, :operator, :fingerprint)
                    on conflict (key) do nothing""", nativeQuery = true)
    int begin(String key, Instant at, String operator, String fingerprint);
}
