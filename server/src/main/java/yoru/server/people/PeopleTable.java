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

    @Query(value = """
                    select p.id as id, p.person_key as key, coalesce(nullif(p.name, ''), p.person_key) as name,
                           p.first_seen_at as since,
                           coalesce(o.open, 0) as open, o.next_end as nextEnd, coalesce(f.orders, 0) as orders
                    from person p
                    left join (select person_id, count(*) as open, min(ends_at) as next_end from opening
                               where target like 'course/%' and opens_at <= :at and (ends_at is null or ends_at > :at) group by person_id) o
                      on o.person_id = p.id
                    left join (select subject, count(distinct thing) as orders from fact
                               where type = 'yoru.order.placed' and happened_at <= :at group by subject) f
                      on f.subject = p.person_key
                    where p.first_seen_at <= :at and p.erasure is distinct from 'DONE'
                      and (:words = '' or lower(p.name) like :words escape '!' or p.person_key like :words escape '!')
                    order by
                      case when :sort = 'name' then lower(coalesce(nullif(p.name, ''), p.person_key)) end,
                      case when :sort = 'key' then p.person_key collate "C" end,
                      case when :sort = 'ends' then o.next_end end nulls last,
                      case when :sort = 'open' then coalesce(o.open, 0) end desc nulls last,
                      p.first_seen_at desc, p.id
                    limit :size offset :skip""", nativeQuery = true)
    List<Row> page(String words, Instant at, String sort, int size, int skip);

    @Query(value = """
                    select count(*) from person p where p.first_seen_at <= :at and p.erasure is distinct from 'DONE'
                      and (:words = '' or lower(p.name) like :words escape '!' or p.person_key like :words escape '!')""", nativeQuery = true)
    int count(String words, Instant at);
}
