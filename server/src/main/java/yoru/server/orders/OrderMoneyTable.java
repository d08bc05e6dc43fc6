package yoru.server.orders;

import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface OrderMoneyTable extends JpaRepository<OrderMoney, Long> {

    @Modifying(flushAutomatically = true)
    @Query("delete from OrderMoney m where m.orderId = :order")
    void deleteOf(String order);
}
