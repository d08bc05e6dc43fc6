package yoru.server.gifts;

import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface SeatLinks extends JpaRepository<SeatLink, String> {

    Optional<SeatLink> findByHash(String hash);
}
