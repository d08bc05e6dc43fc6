package yoru.server.doors;

import java.util.Collection;
import org.springframework.data.jpa.repository.JpaRepository;

interface DoorAddresses extends JpaRepository<DoorAddress, String> {

    void deleteByAddressNotIn(Collection<String> addresses);
}
