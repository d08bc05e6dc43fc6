package yoru.server.mapping;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface RulebookVersions extends JpaRepository<RulebookVersion, Integer> {

    @Query("select max(v.number) from RulebookVersion v")
    Optional<Integer> latest();

    List<RulebookVersion> findAllByOrderByNumberDesc();
}
