package yoru.server.exchange;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface CalendarFeeds extends JpaRepository<CalendarFeed, Long> {

    List<CalendarFeed> findAllByOrderById();

    Optional<CalendarFeed> findByHash(String hash);
}
