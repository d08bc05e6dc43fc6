package yoru.server.announcements;

import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface AnnouncementTable extends JpaRepository<Announcement, Long> {

    List<Announcement> findByPersonIdInOrderById(Collection<Long> people);

    @Modifying
    @Query("delete from Announcement a where a.personId = :person and a.target in :targets")
    void forget(long person, Collection<String> targets);

    @Modifying
    @Query("delete from Announcement a where a.personId in :people")
    void forgetPeople(Collection<Long> people);
}
