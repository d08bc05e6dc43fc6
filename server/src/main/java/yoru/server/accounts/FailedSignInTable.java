package yoru.server.accounts;

import java.time.Instant;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface FailedSignInTable extends JpaRepository<FailedSignIn, String> {

    /** Counts one more, from one again where the last was before {@code since}. */
    @Modifying
    @Query(value = """
                    insert into failed_sign_in (about, failures, last_at) values (:about, 1, :now)
                    on conflict (about) do update set
                      failures = case when failed_sign_in.last_at < :since then 1 else failed_sign_in.failures + 1 end,
                      last_at = :now""", nativeQuery = true)
    void count(String about, Instant now, Instant since);

    @Modifying
    @Query("delete from FailedSignIn f where f.lastAt < :since")
    void forget(Instant since);
}
