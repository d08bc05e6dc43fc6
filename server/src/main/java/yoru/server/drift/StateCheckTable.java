package yoru.server.drift;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface StateCheckTable extends JpaRepository<StateCheck, Long> {

    Optional<StateCheck> findFirstByConnectionIdOrderByIdDesc(String connectionId);

    /** @param found a list of objects {@code person, target, until, dated}, as JSON: one statement for a whole page */
    @Modifying
    @Query(value = """
                    insert into found_state (check_id, person_key, target, until, dated)
                    select :check, it.person, it.target, it.until, it.dated
                    from jsonb_to_recordset(cast(:found as jsonb)) it(person text, target text, until timestamptz, dated boolean)
                    on conflict do nothing""", nativeQuery = true)
    void keep(long check, String found);

    /** The key at which a part of everybody who has something, or was told to, ends; none = the rest is shorter. */
    @Query(value = """
                    select key from (
                      (select distinct person_key collate "C" as key from found_state
                       where check_id = :check and person_key collate "C" > :after order by 1 limit :many)
                      union
                      (select p.person_key collate "C" from person p
                       where p.person_key collate "C" > :after
                         and exists (select from delivery d where d.connection_id = :connection and d.person_id = p.id)
                       order by 1 limit :many)
                    ) keys order by 1 offset :many - 1 limit 1""", nativeQuery = true)
    Optional<String> boundary(long check, String connection, String after, int many);

    @Query(value = """
                    select person_key as person, target, until, dated from found_state
                    where check_id = :check and person_key collate "C" > :after
                      and (cast(:to as text) is null or person_key collate "C" <= :to)""", nativeQuery = true)
    List<Found> found(long check, String after, @Nullable String to);

    /** What a system has. */
    interface Found {
        String getPerson();

        String getTarget();

        @Nullable
        Instant getUntil();

        boolean getDated();
    }

    @Modifying
    @Query(value = "delete from found_state where person_key in (:keys)", nativeQuery = true)
    void forgetPeople(Collection<String> keys);

    @Modifying
    @Query(value = "delete from found_state where check_id = :check", nativeQuery = true)
    void forget(long check);
}
