package yoru.server.gifts;

import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface GiftCodes extends JpaRepository<GiftCode, String> {

    @Modifying
    @Query("delete from GiftCode c where c.orderId = :orderId and c.line = :line and c.seat = :seat")
    void deleteOf(String orderId, String line, int seat);
}
