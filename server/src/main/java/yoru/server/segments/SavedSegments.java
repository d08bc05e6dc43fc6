package yoru.server.segments;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface SavedSegments extends JpaRepository<SavedSegment, Long> {

    List<SavedSegment> findAllByOrderByName();

    Optional<SavedSegment> findByName(String name);
}
