package yoru.server.rulebooks;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface RulebookVersions extends JpaRepository<RulebookVersion, Integer> {

    /** One publish at a time, on all servers; reading goes on. */
    @Modifying
    @Query(value = "lock table rulebook_version in exclusive mode", nativeQuery = true)
    void lockAll();

    @Query("select max(v.number) from RulebookVersion v")
    Optional<Integer> latest();

    List<RulebookVersion> findAllByOrderByNumberDesc();
}
