package yoru.server.people;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;
import yoru.server.ledger.Person;

interface PeopleTable extends Repository<Person, Long> {

    /** One row of the list. */
    interface Row {
        long getId();

        String getKey();

        String getName();

        Instant getSince();

        int getOpen();

        int getOrders();

        @Nullable
        Instant getNextEnd();
    }

    String CALLED = "coalesce(nullif(p.name, ''), p.person_key)";

    /** Who is looked for. */
    String WHO = """
            p.first_seen_at <= :at and p.erasure is distinct from 'DONE'
            and (:words = '' or lower(p.name) like :words escape '!' or p.person_key like :words escape '!')
            """;

    /** What is open to somebody {@code p}, or each. */
    String OPEN = """
            from opening where target like 'course/%' and opens_at <= :at and (ends_at is null or ends_at > :at)
            """;

    /** A page of people {@code p}: only for those on it is counted what they have. */
    String SHOWN = "select p.id as id, p.person_key as key, " + CALLED + """
             as name, p.first_seen_at as since,
            o.open as open, o.next_end as nextEnd, f.orders as orders
            from (select p.* from person p where
            """ + WHO + " order by ";

    String COUNTED = """
             limit :size offset :skip) p
            cross join lateral (select count(*) as open, min(ends_at) as next_end
            """ + OPEN + """
            and person_id = p.id) o
            cross join lateral (select count(distinct thing) as orders from fact
              where type = 'yoru.order.placed' and subject = p.person_key and happened_at <= :at) f
            order by
            """;

    String NEWEST = " p.first_seen_at desc, p.id ";
    String NAME = " lower(" + CALLED + "), " + NEWEST;

    @Query(value = SHOWN + NEWEST + COUNTED + NEWEST, nativeQuery = true)
    List<Row> newest(String words, Instant at, int size, int skip);

    @Query(value = SHOWN + NAME + COUNTED + NAME, nativeQuery = true)
    List<Row> byName(String words, Instant at, int size, int skip);

    /** By what is open to them, the most first or what ends next first; for that everybody is looked at. */
    @Query(
            value = "select p.id as id, p.person_key as key, " + CALLED + """
                     as name, p.first_seen_at as since, coalesce(p.open, 0) as open, p.next_end as nextEnd, f.orders as orders
                    from (select p.*, o.open, o.next_end from person p
                      left join (select person_id, count(*) as open, min(ends_at) as next_end
                    """ + OPEN + """
                      group by person_id) o on o.person_id = p.id
                      where
                    """ + WHO + """
                      order by case when :most then coalesce(o.open, 0) end desc nulls last,
                        case when not :most then o.next_end end nulls last, p.first_seen_at desc, p.id
                      limit :size offset :skip) p
                    cross join lateral (select count(distinct thing) as orders from fact
                      where type = 'yoru.order.placed' and subject = p.person_key and happened_at <= :at) f
                    order by case when :most then coalesce(p.open, 0) end desc nulls last,
                      case when not :most then p.next_end end nulls last, p.first_seen_at desc, p.id""",
            nativeQuery = true)
    List<Row> byOpen(String words, Instant at, boolean most, int size, int skip);

    /** All of them, by key. */
    @Query(
            value = "select p.id as id, p.person_key as key, " + CALLED + """
                     as name, p.first_seen_at as since,
                    coalesce(o.open, 0) as open, o.next_end as nextEnd, coalesce(f.orders, 0) as orders
                    from person p
                    left join (select person_id, count(*) as open, min(ends_at) as next_end
                    """ + OPEN + """
                      group by person_id) o on o.person_id = p.id
                    left join (select subject, count(distinct thing) as orders from fact
                      where type = 'yoru.order.placed' and happened_at <= :at group by subject) f on f.subject = p.person_key
                    where
                    """ + WHO
                    + " order by p.person_key collate \"C\"",
            nativeQuery = true)
    List<Row> all(String words, Instant at);

    @Query(value = "select count(*) from person p where " + WHO, nativeQuery = true)
    int count(String words, Instant at);
}
