package yoru.server.ledger;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.repository.Repository;

/**
 * Lists of texts go in as JSON arrays, for any text may stand in a key. Where rows are looked up by such a list it is made an
 * array: PostgreSQL takes a set that a function returns for so long that it reads the whole table instead of its index.
 */
interface FactTable extends Repository<KeptFact, Long> {

    /** Whoever was joined with one of the same, either way. */
    String JOINS = """
            select f.body -> 'data' ->> 'into' as key from fact f
              where f.type = 'yoru.person.merged' and f.subject = s.key
            union all
            select f.subject from fact f
              where f.type = 'yoru.person.merged' and f.body -> 'data' ->> 'into' = s.key
            """;

    String JOINED = "select joined.key from same s cross join lateral (" + JOINS + ") joined ";

    /** Subjects, and all whose facts count for the same people. */
    String SAME = """
            with recursive same (key) as (
              select jsonb_array_elements_text(cast(:subjects as jsonb))
              union
            """ + JOINED + ")";

    /** The facts about some things, and the merges of those whom they are about, as JSON. */
    @Query(value = """
                    with recursive about as (
                      select seq, subject from fact
                      where thing = any(array(select jsonb_array_elements_text(cast(:things as jsonb))))),
                    same (key) as (
                      select subject from about
                      union
                      select f.body -> 'data' ->> 'into' from same s join fact f
                        on f.type = 'yoru.person.merged' and f.subject = s.key)
                    select cast(f.body as text) from fact f
                    where f.seq in (select seq from about
                                    union select m.seq from fact m
                                      where m.subject = any(array(select key from same))
                                        and m.type in ('yoru.person.merged', 'yoru.person.parted'))
                    order by f.seq""", nativeQuery = true)
    List<String> aboutThings(String things);

    /** Some people, and all who were ever joined with them. */
    @Query(value = SAME + " select key from same", nativeQuery = true)
    List<String> joinedWith(String subjects);

    /** The orders that some people, and those joined with them, placed. */
    @Query(value = SAME + """
             select distinct thing from fact
            where type = 'yoru.order.placed' and subject = any(array(select key from same))""", nativeQuery = true)
    List<String> ordersOf(String subjects);

    /** The orders in which one of the things is mentioned. */
    @Query(value = """
                    select distinct thing from fact
                    where type = 'yoru.order.placed'
                      and mentions && array(select jsonb_array_elements_text(cast(:mentions as jsonb)))""", nativeQuery = true)
    List<String> ordersMentioning(String mentions);

    @Query("select distinct f.thing from KeptFact f where f.type = 'yoru.order.placed'")
    List<String> allOrders();

    @Query("select count(f) > 0 from KeptFact f where f.thing = :thing")
    boolean knows(String thing);

    @Query(value = """
                    select exists (select 1 from fact where subject = :subject and (type = 'yoru.order.placed'
                      or type not like 'yoru.order.%' and type not like 'yoru.instalment.%'))
                      or exists (select 1 from fact where type = 'yoru.person.merged' and body -> 'data' ->> 'into' = :subject)""", nativeQuery = true)
    boolean isKnown(String subject);

    @Query("""
            select count(f) > 0 from KeptFact f
            where f.subject = :subject and f.type in ('yoru.person.merged', 'yoru.person.parted')""")
    boolean wasJoined(String subject);

    @Query(value = """
                    select f.subject as subject, f.body -> 'data' ->> 'verifiedEmail' as address from fact f
                    where jsonb_exists(f.body -> 'data', 'verifiedEmail') and (:subject = '' or f.subject = :subject)
                      and not exists (select 1 from fact j where j.subject = f.subject
                                      and j.type in ('yoru.person.merged', 'yoru.person.parted'))
                    order by f.happened_at, f.seq""", nativeQuery = true)
    List<Verified> verified(String subject);

    /** A subject and what a system said it has verified. */
    interface Verified {
        String getSubject();

        String getAddress();
    }

    Optional<KeptFact> findBySeq(long seq);

    /** Holds back facts about the same thing, and merges of people, until the transaction ends. */
    @Query(value = """
                    select cast(pg_advisory_xact_lock_shared(hashtextextended('people', 1)) as text)
                        || cast(pg_advisory_xact_lock(hashtextextended(:thing, 0)) as text)""", nativeQuery = true)
    String oneAtATime(String thing);

    /** Holds back all facts while people are merged. */
    @Query(value = "select cast(pg_advisory_xact_lock(hashtextextended('people', 1)) as text)", nativeQuery = true)
    String alone();

    /**
     * Keeps facts, each once.
     *
     * @param rows a JSON array of objects with the columns as names
     * @return those that were not known
     */
    @Query(value = """
                    insert into fact
                      (source, event_id, type, subject, thing, mentions, happened_at, received_at, origin, connection_id, body)
                    select r ->> 'source', r ->> 'eventId', r ->> 'type', r ->> 'subject', r ->> 'thing',
                      array(select jsonb_array_elements_text(r -> 'mentions')),
                      cast(r ->> 'happenedAt' as timestamptz), :receivedAt, r ->> 'origin', r ->> 'connection', r -> 'body'
                    from jsonb_array_elements(cast(:rows as jsonb)) with ordinality e (r, n) order by n
                    on conflict (source, event_id) do nothing
                    returning seq, source, event_id as eventId""", nativeQuery = true)
    List<Inserted> insertAll(String rows, Instant receivedAt);

    interface Inserted {
        long getSeq();

        String getSource();

        String getEventId();
    }

    /** Those of the same that are known and say something else; that a file brought it is nothing else. */
    @Query(value = """
                    select f.seq as seq, f.source as source, f.event_id as eventId
                    from jsonb_array_elements(cast(:rows as jsonb)) r
                    join fact f on f.source = r ->> 'source' and f.event_id = r ->> 'eventId' and f.body #- '{data,past}' <> r -> 'body' #- '{data,past}'""", nativeQuery = true)
    List<Inserted> contradicted(String rows);

    /** Those of some ids, objects with {@code source} and {@code id}, that are known. */
    @Query(value = """
                    select f.seq as seq, f.source as source, f.event_id as eventId
                    from jsonb_array_elements(cast(:ids as jsonb)) r
                    join fact f on f.source = r ->> 'source' and f.event_id = r ->> 'id'""", nativeQuery = true)
    List<Inserted> known(String ids);

    /** Those of some orders that were placed as another source has it. */
    @Query(value = """
                    select distinct thing from fact
                    where thing = any(array(select jsonb_array_elements_text(cast(:things as jsonb))))
                      and type = 'yoru.order.placed' and source <> :source""", nativeQuery = true)
    List<String> orderedElsewhere(String things, String source);

    /** As {@link #concerned(String, String)}, for many. */
    @Query(value = """
                    with recursive known (key) as (
                      select jsonb_array_elements_text(cast(:subjects as jsonb))
                      union select subject from fact
                        where thing = any(array(select jsonb_array_elements_text(cast(:things as jsonb))))),
                    same (key) as (
                      select key from known
                      union
                    """ + JOINED + """
                    )
                    select p.id from person p where p.person_key = any(array(select key from same))""", nativeQuery = true)
    List<Long> concernedByAll(String subjects, String things);

    /**
     * The same of each of many alone. What is looked up one by one is, for the table is not to be read whole.
     *
     * @param asked a JSON array of objects with {@code n}, {@code subject} and {@code thing}
     */
    @Query(value = """
                    with recursive asked as (
                      select cast(r ->> 'n' as int) as n, r ->> 'subject' as subject, r ->> 'thing' as thing
                      from jsonb_array_elements(cast(:asked as jsonb)) r),
                    same (n, key) as (
                      select n, subject from asked
                      union select a.n, f.subject from asked a cross join lateral (
                        select subject from fact where thing = a.thing offset 0) f
                      union
                      select s.n, joined.key from same s cross join lateral (
                    """ + JOINS + """
                      ) joined)
                    select s.n as n, p.id as person from same s cross join lateral (
                      select id from person where person_key = s.key limit 1) p""", nativeQuery = true)
    List<Concerned> concernedByEach(String asked);

    interface Concerned {
        int getN();

        long getPerson();
    }

    /** As {@link #oneAtATime(String)}, for many, in an order that is always the same. */
    @Query(value = """
                    with people as materialized (
                      select cast(pg_advisory_xact_lock_shared(hashtextextended('people', 1)) as text) as held)
                    select count(*) from people, lateral (
                      select pg_advisory_xact_lock(hashtextextended(thing, 0)) from (
                        select thing from jsonb_array_elements_text(cast(:things as jsonb)) thing
                        order by thing collate "C") sorted
                      where people.held = '') things""", nativeQuery = true)
    long allAtATime(String things);

    @Query(
            value =
                    "select body #- '{data,past}' = cast(:body as jsonb) #- '{data,past}' from fact where source = :source and event_id = :eventId",
            nativeQuery = true)
    boolean saysTheSame(String source, String eventId, String body);

    /** All facts of some subjects, and those that name them. */
    @Query(value = """
                    select f.seq as seq, cast(f.body as text) as body from fact f
                    where names_any(cast(f.body as text), cast(:subjects as jsonb))""", nativeQuery = true)
    List<Body> naming(String subjects);

    interface Body {
        long getSeq();

        String getBody();
    }

    /** @param rows a JSON array of objects with {@code seq}, {@code subject}, {@code eventId}, {@code thing} and {@code body} */
    @Modifying
    @Query(value = """
                    update fact f set subject = r ->> 'subject', event_id = r ->> 'eventId', thing = r ->> 'thing', body = r -> 'body'
                    from jsonb_array_elements(cast(:rows as jsonb)) r
                    where f.seq = cast(r ->> 'seq' as bigint)""", nativeQuery = true)
    void say(String rows);

    @Query(value = SAME + " select key from same", nativeQuery = true)
    List<String> same(String subjects);

    /** All facts of the subjects, and of the things that those facts are about, as JSON. */
    @Query(value = SAME + """
            , mine as (select seq, thing from fact where subject = any(array(select key from same)))
            select cast(f.body as text) from fact f
            where f.seq in (select seq from mine
                            union select o.seq from fact o where o.thing = any(array(select thing from mine)))
            order by f.seq""", nativeQuery = true)
    List<String> concerning(String subjects);

    /** Those of whom a fact mentions one of the things, and those who claimed something of such an order. */
    @Query(value = """
                    with named as (
                      select subject, thing from fact
                      where mentions && array(select jsonb_array_elements_text(cast(:mentions as jsonb))))
                    select subject from named
                    union select f.subject from fact f
                      where f.type = 'yoru.gift.claimed' and f.thing in (select thing from named)""", nativeQuery = true)
    List<String> mentioning(String mentions);

    @Query("select distinct f.subject from KeptFact f")
    List<String> everybody();

    /** All people whose access a fact about the subject and the thing can change; they must be known. */
    default List<Long> concerned(String subject, @Nullable String thing) {
        return concernedByAll(Rows.json(List.of(subject)), Rows.json(thing == null ? List.of() : List.of(thing)));
    }

    /** An order mentions its products, and nothing else; reading what it says of them takes two to four times as long. */
    @Query(value = """
                    select substr(mention, length('product ') + 1) as product, count(*) as buyers
                    from (select distinct mention, subject from fact cross join unnest(mentions) mention
                          where type = 'yoru.order.placed') bought
                    group by 1 order by 2 desc, 1""", nativeQuery = true)
    List<Sold> sold();

    @Query(value = """
                    select line ->> 'product' as product, count(distinct subject) as buyers
                    from fact, jsonb_array_elements(body -> 'data' -> 'lines') line
                    where type = 'yoru.order.placed' and line -> 'quantity' > '1'
                    group by 1""", nativeQuery = true)
    List<Sold> soldSeveral();

    @Query(value = """
                    select count(distinct subject) from fact
                    where type = 'yoru.order.placed' and body -> 'data' -> 'guest' = 'true'
                      and happened_at >= :since""", nativeQuery = true)
    int guests(Instant since);

    @Query(value = """
                    select count(*) from person p
                    where exists (select 1 from fact f where f.subject = p.person_key)
                      and not exists (select 1 from fact f where f.subject = p.person_key
                        and f.type not like 'yoru.tag.%' and f.type not like 'yoru.level.%'
                        and f.type not like 'yoru.course.%')""", nativeQuery = true)
    int onlyContacts();

    /** How many people ordered a product. */
    interface Sold {
        String getProduct();

        int getBuyers();
    }

    @Query(value = """
                    select p.id as person, p.name as name, p.person_key as key, max(f.happened_at) as at,
                      count(*) over () as many
                    from fact f join person p on p.person_key = f.subject
                    where f.type in ('yoru.order.placed', 'yoru.subscription.started')
                      and f.mentions && array[cast(:mention as text)]
                    group by 1, 2, 3 order by 4 desc, 1 limit :most""", nativeQuery = true)
    List<Somebody> buyers(String mention, int most);

    /** How often something was ordered in each month of a zone; months without are left out. */
    @Query(value = """
                    select to_char(f.happened_at at time zone :zone, 'YYYY-MM') as month, count(*) as many
                    from fact f where f.type = 'yoru.order.placed' and f.mentions && array[cast(:mention as text)]
                    group by 1 order by 1""", nativeQuery = true)
    List<Ordered> orderedByMonth(String mention, String zone);

    interface Ordered {
        String getMonth();

        int getMany();
    }

    /** Somebody who did something, when last, and how many there are of them. */
    interface Somebody {
        long getPerson();

        String getName();

        String getKey();

        Instant getAt();

        int getMany();
    }

    @Query(value = """
                    with latest as (
                      select distinct on (subject) subject, type, happened_at from fact
                      where type in ('yoru.list.left', 'yoru.list.joined') and happened_at <= :at
                        and body -> 'data' ->> 'list' = :list
                      order by subject, happened_at desc, seq desc)
                    select p.id as person, p.name as name, p.person_key as key, l.happened_at as at,
                      count(*) over () as many
                    from latest l join person p on p.person_key = l.subject
                    where l.type = 'yoru.list.left' order by 4 desc, 1 limit :most""", nativeQuery = true)
    List<Somebody> whoLeft(String list, Instant at, int most);

    @Query("select count(f) from KeptFact f where f.type = :type and f.happenedAt >= :since")
    long countSince(String type, Instant since);

    @Query("select max(f.happenedAt) from KeptFact f where f.type = 'yoru.order.placed'")
    Optional<Instant> lastSale();
}
