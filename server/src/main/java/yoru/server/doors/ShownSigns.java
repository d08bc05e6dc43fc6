package yoru.server.doors;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface ShownSigns extends JpaRepository<ShownSign, ShownSign.Id> {

    @Query("select s from ShownSign s where s.id.connectionId = :connection order by s.id.place")
    List<ShownSign> of(String connection);

    @Modifying
    @Query(value = "lock table shown_sign in share row exclusive mode", nativeQuery = true)
    void lockAll();

    @Query("""
            select s from ShownSign s
            where s.id.connectionId = :connection and s.state = yoru.server.doors.ShownSign.State.WAITING
            order by s.id.place""")
    List<ShownSign> waiting(String connection);
}
