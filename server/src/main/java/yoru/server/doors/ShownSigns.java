package yoru.server.doors;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface ShownSigns extends JpaRepository<ShownSign, ShownSign.Id> {

    @Query("select s from ShownSign s where s.id.connectionId = :connection order by s.id.place")
    List<ShownSign> of(String connection);

    /** Before anything is changed, so that no two see to the same thing at once. */
    @Modifying
    @Query(value = "lock table shown_sign in share row exclusive mode", nativeQuery = true)
    void lockAll();

    /** Which systems that are on show something else at how many places, or took it not; without what it is. */
    @Query(value = """
                    select s.connection_id as "connection", cast(count(*) as integer) as "places",
                      min(s.answer) filter (where s.state = 'REFUSED') as "says"
                    from shown_sign s join connection c on c.id = s.connection_id
                    where c.state = 'ON' and (s.differs or s.state = 'REFUSED')
                    group by s.connection_id order by s.connection_id""", nativeQuery = true)
    List<Otherwise> otherwise();

    /** Of one system. */
    interface Otherwise {
        String getConnection();

        int getPlaces();

        @Nullable
        String getSays();
    }

    @Query("""
            select s from ShownSign s
            where s.id.connectionId = :connection and s.state = yoru.server.doors.ShownSign.State.WAITING
            order by s.id.place""")
    List<ShownSign> waiting(String connection);
}
