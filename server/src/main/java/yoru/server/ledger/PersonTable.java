package yoru.server.ledger;

import jakarta.persistence.LockModeType;
import jakarta.persistence.QueryHint;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.hibernate.jpa.AvailableHints;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import org.springframework.data.jpa.repository.QueryHints;

interface PersonTable extends JpaRepository<Person, Long> {

    @Query("select p.key from Person p where p.erasure is null")
    Set<String> keysOfNotErased();

    /**
     * Makes people known; a later name counts, an empty one does not.
     *
     * @param people a JSON array of objects with {@code key}, {@code name} and {@code seen}, each key once
     */
    @Modifying
    @Query(value = """
                    insert into person (person_key, name, first_seen_at)
                    select r ->> 'key', r ->> 'name', cast(r ->> 'seen' as timestamptz)
                    from jsonb_array_elements(cast(:people as jsonb)) r
                    on conflict (person_key) do update set
                      name = case when excluded.name = '' then person.name else excluded.name end,
                      first_seen_at = least(person.first_seen_at, excluded.first_seen_at)
                    where person.first_seen_at > excluded.first_seen_at
                       or (excluded.name <> '' and person.name <> excluded.name)""", nativeQuery = true)
    void knowAll(String people);

    default void know(String key, String name, Instant seen) {
        knowAll(new Seen().as(key, name, seen).json());
    }

    @Query("select p.key as key, p.name as name from Person p where p.name <> ''")
    List<Named> named();

    /** Somebody of whom a name is known. */
    interface Named {
        String getKey();

        String getName();
    }

    /** The erased people who placed orders, or began subscriptions; the earliest of a thing counts. */
    @Query("""
            select f.thing as thing, p.key as key from Person p join KeptFact f on f.subject = p.key
            where f.thing in :things and f.type <> 'yoru.gift.claimed'
              and p.erasure = yoru.server.ledger.Person.Erasure.DONE
            order by f.seq""")
    List<Behind> erasedBehind(Collection<String> things);

    /** Who is behind a thing. */
    interface Behind {
        String getThing();

        String getKey();
    }

    Optional<Person> findByKey(String key);

    List<Person> findByKeyIn(Collection<String> keys);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select p from Person p where p.id = :id")
    Optional<Person> lock(long id);

    @Query("select p.id from Person p where p.key in :keys")
    List<Long> ids(Collection<String> keys);

    /** In the order of their ids, as all do who lock several. */
    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select p from Person p where p.id in :ids order by p.id")
    List<Person> lock(Collection<Long> ids);

    /** Those whom nobody else has locked: whoever holds several and waits for one more may wait for ever. */
    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @QueryHints(@QueryHint(name = AvailableHints.HINT_SPEC_LOCK_TIMEOUT, value = SKIP_LOCKED))
    @Query("select p from Person p where p.id in :ids order by p.id")
    List<Person> lockFree(Collection<Long> ids);

    /** {@link org.hibernate.Timeouts#SKIP_LOCKED}, as a text. */
    String SKIP_LOCKED = "-2";

    @Query("select p.id from Person p where p.id > :after order by p.id limit 200")
    List<Long> idsAfter(long after);
}
