package yoru.server.orders;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

interface OrderTable extends Repository<ListedOrder, String> {

    /** The orders that a filter lets through. */
    String MATCHING = """
            from order_row o
            left join person p on p.id = o.person_id
            where o.placed_at <= :at
              and (:words = '' or lower(o.id) like :words escape '!' or lower(p.name) like :words escape '!'
                   or p.person_key like :words escape '!' or lower(o.invoice) like :words escape '!')
              and (:person = 0 or o.person_id = :person)
              and (:product = '' or o.products && array[cast(:product as text)])
              and (:channel = '' or o.channel = :channel)
              and (:toDo = '' or o.to_do && array[cast(:toDo as text)])
              and (not :overdue or o.overdue_at <= :at)
              and o.placed_at >= :since and o.placed_at < :before
            """;

    String IN_ORDER = """
            order by
              case when :sort = 'total' then total end desc nulls last,
              case when :sort = 'name' then lower(name) end,
              case when :sort = 'due' then overdue_at end nulls last,
              placed_at desc, id
            """;

    String MONEY = """
            sum(amount) filter (where kind = 'PAID') as paid,
            sum(amount) filter (where kind = 'GIVEN_BACK') as given_back,
            sum(amount) filter (where kind = 'WAIVED') as waived
            from order_money
            """;

    /**
     * Has what follows in this transaction planned for the very values it is asked with. Planned for any, PostgreSQL
     * takes a filter that lets everything through for one that lets little through, and looks each order up by itself.
     */
    @Query(value = "select set_config('plan_cache_mode', 'force_custom_plan', true)", nativeQuery = true)
    String planForItself();

    /** With their money as of the time; only that of those on the page is added up. */
    @Query(
            value = "with matching as ("
                    + " select o.*, coalesce(nullif(p.name, ''), p.person_key) as name, p.person_key " + MATCHING + "),"
                    + " page as (select * from matching " + IN_ORDER + " limit :size offset :skip)"
                    + """
                     select page.*, coalesce(m.paid, 0) as paid, coalesce(m.given_back, 0) as given_back,
                       total - coalesce(m.paid, 0) - coalesce(m.waived, 0) as owed
                     from page
                     left join lateral (select\s"""
                    + MONEY + " where order_id = page.id and at <= :at) m on true " + IN_ORDER,
            nativeQuery = true)
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

    @Query(
            value = "with found as (select o.id, o.currency, o.total " + MATCHING + "),"
                    + " counted as (select currency, count(*) as orders, sum(total) as total from found group by currency),"
                    + " moved as (select currency, " + MONEY
                    + " join found on found.id = order_id where at <= :at group by currency)"
                    + """
                     select currency as currency, orders as orders, total as total, coalesce(paid, 0) as paid,
                       coalesce(given_back, 0) as givenBack, total - coalesce(paid, 0) - coalesce(waived, 0) as owed
                     from counted left join moved using (currency) order by orders desc, currency""",
            nativeQuery = true)
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
