package yoru.server.gifts;

import java.util.Collection;
import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface GiftTable extends JpaRepository<Gift, Gift.Place> {

    List<Gift> findByOrderId(String orderId);

    List<Gift> findByAddressIn(Collection<String> addresses);
}
