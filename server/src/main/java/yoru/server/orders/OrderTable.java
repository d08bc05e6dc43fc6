package yoru.server.orders;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

interface OrderTable extends Repository<ListedOrder, String> {

    /** The orders that a filter lets through, with their money as of its time. */
    String FOUND = """
            with found as (
              select o.id, o.person_id, o.channel, o.currency, o.placed_at, o.opened_at, o.cancelled_at, o.overdue_at,
                     o.pay_by, o.invoice, o.total, o.products, o.quantities, o.to_do,
                     coalesce(nullif(p.name, ''), p.person_key) as name, p.person_key as person_key,
                     coalesce(m.paid, 0) as paid, coalesce(m.given_back, 0) as given_back,
                     o.total - coalesce(m.paid, 0) - coalesce(m.waived, 0) as owed
              from order_row o
              join person p on p.id = o.person_id
              left join lateral (
                select sum(amount) filter (where kind = 'PAID') as paid,
                       sum(amount) filter (where kind = 'GIVEN_BACK') as given_back,
                       sum(amount) filter (where kind = 'WAIVED') as waived
                from order_money where order_id = o.id and at <= :at) m on true
              where o.placed_at <= :at
                and (:words = '' or lower(o.id) like :words escape '!' or lower(p.name) like :words escape '!'
                     or p.person_key like :words escape '!' or lower(o.invoice) like :words escape '!')
                and (:person = 0 or o.person_id = :person)
                and (:product = '' or o.products && array[cast(:product as text)])
                and (:channel = '' or o.channel = :channel)
                and (:toDo = '' or o.to_do && array[cast(:toDo as text)])
                and (not :overdue or o.overdue_at <= :at)
                and o.placed_at >= :since and o.placed_at < :before)
            """;

    @Query(value = FOUND + """
            select * from found order by
              case when :sort = 'total' then total end desc nulls last,
              case when :sort = 'name' then lower(name) end,
              case when :sort = 'due' then overdue_at end nulls last,
              placed_at desc, id
            limit :size offset :skip""", nativeQuery = true)
    List<Row> page(
            Instant at,
            String words,
            long person,
            String product,
            String channel,
            String toDo,
            boolean overdue,
            Instant since,
            Instant before,
            String sort,
            int size,
            int skip);

    @Query(value = FOUND + """
            select currency as currency, count(*) as orders, sum(total) as total, sum(paid) as paid,
              sum(given_back) as givenBack, sum(owed) as owed
            from found group by currency order by count(*) desc, currency""", nativeQuery = true)
    List<Sum> sums(
            Instant at,
            String words,
            long person,
            String product,
            String channel,
            String toDo,
            boolean overdue,
            Instant since,
            Instant before);

    /** What the filtered orders in one currency come to. */
    interface Sum {
        String getCurrency();

        int getOrders();

        BigDecimal getTotal();

        BigDecimal getPaid();

        BigDecimal getGivenBack();

        BigDecimal getOwed();
    }

    /** One row of the list. */
    interface Row {
        String getId();

        long getPersonId();

        String getName();

        String getPersonKey();

        String getChannel();

        String getCurrency();

        Instant getPlacedAt();

        @Nullable
        Instant getOpenedAt();

        @Nullable
        Instant getCancelledAt();

        @Nullable
        Instant getOverdueAt();

        @Nullable
        String getInvoice();

        BigDecimal getTotal();

        BigDecimal getPaid();

        BigDecimal getGivenBack();

        BigDecimal getOwed();

        String[] getProducts();

        /** Of each product; empty where the row was not made anew yet. */
        Integer[] getQuantities();

        String[] getToDo();
    }

    @Query(value = """
                    select o.id as id, coalesce(nullif(p.name, ''), p.person_key) as name, o.surplus as surplus
                    from order_row o join person p on p.id = o.person_id
                    where o.surplus <> '{}' order by o.placed_at desc limit :most""", nativeQuery = true)
    List<PaidForMore> surplus(int most);

    interface PaidForMore {
        String getId();

        String getName();

        String[] getSurplus();
    }

    @Query(
            value = "select count(distinct person_id) from order_row where opened_at is null and cancelled_at is null",
            nativeQuery = true)
    int peopleNotOpened();

    /** Puts rows into the list or over those that are there, a JSON array of objects with the columns as names. */
    @Modifying
    @Query(value = """
                    insert into order_row (id, person_id, channel, currency, placed_at, opened_at, cancelled_at, overdue_at,
                                           pay_by, invoice, total, products, quantities, surplus, to_do)
                    select id, person_id, channel, currency, placed_at, opened_at, cancelled_at, overdue_at, pay_by, invoice,
                           total, products, quantities, surplus, to_do
                    from jsonb_to_recordset(cast(:rows as jsonb)) r (
                      id text, person_id bigint, channel text, currency text, placed_at timestamptz, opened_at timestamptz,
                      cancelled_at timestamptz, overdue_at timestamptz, pay_by date, invoice text, total numeric,
                      products text[], quantities integer[], surplus text[], to_do text[])
                    on conflict (id) do update set
                      person_id = excluded.person_id, channel = excluded.channel, currency = excluded.currency,
                      placed_at = excluded.placed_at, opened_at = excluded.opened_at, cancelled_at = excluded.cancelled_at,
                      overdue_at = excluded.overdue_at, pay_by = excluded.pay_by, invoice = excluded.invoice,
                      total = excluded.total, products = excluded.products,
                      quantities = excluded.quantities, surplus = excluded.surplus, to_do = excluded.to_do""", nativeQuery = true)
    void put(String rows);

    @Modifying
    @Query(value = """
                    delete from order_money
                    where order_id in (select r ->> 'id' from jsonb_array_elements(cast(:rows as jsonb)) r)""", nativeQuery = true)
    void forgetMoney(String rows);

    /** @param movements of money, a JSON array of objects with the columns as names */
    @Modifying
    @Query(value = """
                    insert into order_money (order_id, at, line, kind, amount)
                    select order_id, at, line, kind, amount from jsonb_to_recordset(cast(:movements as jsonb)) r (
                      order_id text, at timestamptz, line text, kind text, amount numeric)""", nativeQuery = true)
    void putMoney(String movements);

    @Query(value = "select nextval('hand_order')", nativeQuery = true)
    long nextNumber();

    @Query(value = "select count(*) from order_row where overdue_at <= :now", nativeQuery = true)
    int countOverdue(Instant now);

    @Query(value = "select count(*) from order_row where to_do && array[cast(:toDo as text)]", nativeQuery = true)
    int countToDo(String toDo);
}
