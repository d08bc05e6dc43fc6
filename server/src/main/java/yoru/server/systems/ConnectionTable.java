package yoru.server.systems;

import java.time.Instant;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface ConnectionTable extends JpaRepository<Connection, String> {

    List<Connection> findAllByOrderByTitle();

    @Modifying
    @Query("update Connection c set c.refused = c.refused + 1 where c.id = :id")
    void countRefused(String id);

    @Modifying
    @Query("update Connection c set c.heardAt = :at where c.id = :id")
    void heard(String id, Instant at);
}
