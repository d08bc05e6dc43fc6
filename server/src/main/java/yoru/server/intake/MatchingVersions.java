package yoru.server.intake;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface MatchingVersions extends JpaRepository<MatchingVersion, MatchingVersion.Key> {

    Optional<MatchingVersion> findFirstByConnectionIdOrderByNumberDesc(String connectionId);

    List<MatchingVersion> findByConnectionIdOrderByNumberDesc(String connectionId);

    Optional<MatchingVersion> findByConnectionIdAndNumber(String connectionId, int number);
}
