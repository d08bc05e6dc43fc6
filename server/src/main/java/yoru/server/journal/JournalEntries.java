package yoru.server.journal;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface JournalEntries extends JpaRepository<JournalEntry, Long> {

    /** @param followers whether lines that followed from a fact stand by themselves, not only under the fact */
    @Query("""
            select e from JournalEntry e
            where e.id < :before and e.kind in :kinds and e.at <= :until
              and (:followers = true or e.factSeq is null or e.kind = :fact)
              and (:person is null or e.personId = :person)
              and (:words = '' or lower(e.title) like :words or lower(e.text) like :words)
            order by e.id desc""")
    List<JournalEntry> page(
            long before,
            Collection<Kind> kinds,
            boolean followers,
            Kind fact,
            Instant until,
            @Nullable Long person,
            String words,
            Limit limit);

    /** @param lines in their order, a JSON array of objects with the columns as names
     * @param account the id of whoever is at work */
    @Modifying
    @Query(value = """
                    insert into journal_entry (at, kind, title, said, actor, person_id, fact_seq, account_id, account_address)
                    select :at, r ->> 'kind', r ->> 'title', r ->> 'said', r ->> 'actor',
                      cast(r ->> 'person_id' as bigint), cast(r ->> 'fact_seq' as bigint),
                      cast(cast(:account as text) as uuid), cast(:address as text)
                    from jsonb_array_elements(cast(:lines as jsonb)) with ordinality lines (r, n) order by n
                    """, nativeQuery = true)
    void insertAll(Instant at, String lines, @Nullable String account, @Nullable String address);

    List<JournalEntry> findByPersonIdIn(Collection<Long> people);

    /** Those in which somebody is named. */
    @Query(
            "select e from JournalEntry e where locate(lower(:key), lower(concat(e.title, ' ', e.text, ' ', coalesce(e.actor, '')))) > 0")
    List<JournalEntry> naming(String key);

    List<JournalEntry> findByFactSeqInAndKindNotOrderById(Collection<Long> facts, Kind kind);

    @Query("""
            select e.title as title, count(e) as many, max(e.at) as last from JournalEntry e
            where e.actor = :actor and e.at >= :since and e.kind in (yoru.server.journal.Kind.FAILED, yoru.server.journal.Kind.REFUSED)
            group by e.title""")
    List<Tally> troubles(String actor, Instant since);

    /** How often a line was written, and when last. */
    interface Tally {
        String getTitle();

        long getMany();

        Instant getLast();
    }

    @Query(
            "select e from JournalEntry e where e.kind = :kind and e.actor = :actor and e.at >= :since and e.title like concat(:title, '%') order by e.id desc limit 1")
    Optional<JournalEntry> latest(Kind kind, String actor, String title, Instant since);
}
