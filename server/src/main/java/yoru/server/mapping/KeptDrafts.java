package yoru.server.mapping;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface KeptDrafts extends JpaRepository<KeptDraft, String> {

    /** So that there is a row to lock. */
    @Modifying
    @Query(value = """
                    insert into kept_draft (email, name, places, many, revision, kept_at)
                    values (:email, :name, '{}', 0, 0, now()) on conflict do nothing""", nativeQuery = true)
    void make(String email, String name);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select d from KeptDraft d where d.email = :email")
    Optional<KeptDraft> lock(String email);

    /** Of others who still work here. */
    @Query(value = """
                    select d.* from kept_draft d join operator o on o.email = d.email
                    where d.email <> :email and d.draft is not null order by d.kept_at desc""", nativeQuery = true)
    List<KeptDraft> ofOthers(String email);
}
