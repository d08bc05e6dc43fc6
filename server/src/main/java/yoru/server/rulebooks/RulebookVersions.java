package yoru.server.rulebooks;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface RulebookVersions extends JpaRepository<RulebookVersion, Integer> {

    /** One publish at a time, on all servers; reading goes on. */
    @Modifying
    @Query(value = "lock table rulebook_version in exclusive mode", nativeQuery = true)
    void lockAll();

    @Query("select max(v.number) from RulebookVersion v")
    Optional<Integer> latest();

    List<RulebookVersion> findAllByOrderByNumberDesc();

    /** When one came into force and whom it was to reach, without its document. */
    record Entry(int number, Instant at, Reach reach) {}

    @Query("""
            select v.number, v.publishedAt, v.reach
            from RulebookVersion v
            where v.number between :from and :to
            order by v.number
            """)
    List<Entry> entries(int from, int to);

    /** Those that have follow-ups. */
    @Query(value = """
            select number
            from rulebook_version
            where number between :from and :to and jsonb_array_length(coalesce(document -> 'followups', '[]')) > 0
            """, nativeQuery = true)
    Set<Integer> withFollowups(int from, int to);
}
