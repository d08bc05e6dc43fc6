package yoru.server.ledger;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

interface FactTable extends Repository<KeptFact, Long> {

    /** Holds back facts about the same order until the transaction ends, so that each sees whom the other concerns. */
    @Query(value = "select cast(pg_advisory_xact_lock(hashtextextended(:order, 0)) as text)", nativeQuery = true)
    String oneAtATime(String order);

    /** @return the new fact's number, or nothing where its id is known already */
    @Query(value = """
                    insert into fact (source, event_id, type, subject, order_key, happened_at, received_at, connection_id, body)
                    values (:source, :eventId, :type, :subject, :orderKey, :happenedAt, :receivedAt, :connectionId, cast(:body as jsonb))
                    on conflict (source, event_id) do nothing
                    returning seq""", nativeQuery = true)
    Optional<Long> insert(
            String source,
            String eventId,
            String type,
            String subject,
            String orderKey,
            Instant happenedAt,
            Instant receivedAt,
            String connectionId,
            String body);

    @Query(
            value = "select body = cast(:body as jsonb) from fact where source = :source and event_id = :eventId",
            nativeQuery = true)
    boolean saysTheSame(String source, String eventId, String body);

    /** All facts of the orders that somebody has to do with. */
    @Query(
            "select f from KeptFact f where f.orderKey in (select o.orderKey from KeptFact o where o.subject = :person) order by f.seq")
    List<KeptFact> concerning(String person);

    /** All facts of everybody who ordered one of the products. */
    @Query(value = """
                    select f.* from fact f
                    where f.order_key in (
                      select o.order_key from fact o where o.subject in (
                        select b.subject from fact b, jsonb_array_elements(b.body -> 'data' -> 'lines') line
                        where b.type = 'yoru.order.placed' and line ->> 'product' in (:products)))
                    order by f.seq""", nativeQuery = true)
    List<KeptFact> ofBuyers(Collection<String> products);

    @Query("select distinct f.subject from KeptFact f where f.orderKey = :order")
    List<String> peopleOf(String order);

    @Query(value = """
                    select line ->> 'product' as product, count(distinct subject) as buyers
                    from fact, jsonb_array_elements(body -> 'data' -> 'lines') line
                    where type = 'yoru.order.placed'
                    group by 1 order by 2 desc, 1""", nativeQuery = true)
    List<Sold> sold();

    /** How many people ordered a product. */
    interface Sold {
        String getProduct();

        int getBuyers();
    }

    @Query("select count(f) from KeptFact f where f.type = :type and f.happenedAt >= :since")
    long countSince(String type, Instant since);

    @Query("select max(f.happenedAt) from KeptFact f where f.type = 'yoru.order.placed'")
    Optional<Instant> lastSale();
}
