package yoru.server.exchange;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;

interface ImportJobs extends JpaRepository<ImportJob, Long> {

    List<ImportJob> findAllByOrderByIdDesc(Limit limit);

    @Lock(LockModeType.PESSIMISTIC_WRITE)
    @Query("select j from ImportJob j where j.id = :id")
    Optional<ImportJob> lock(long id);

    /** @param rows a JSON array of objects with {@code number} and {@code cells} */
    @Modifying
    @Query(value = """
                    insert into import_row (job_id, number, cells)
                    select :job, cast(r ->> 'number' as bigint), r -> 'cells'
                    from jsonb_array_elements(cast(:rows as jsonb)) r""", nativeQuery = true)
    void addRows(long job, String rows);

    @Query(value = """
                    select number as number, cast(cells as text) as cells from import_row
                    where job_id = :job and (:all or fate is null) order by number limit :most""", nativeQuery = true)
    List<Cells> rows(long job, boolean all, int most);

    interface Cells {
        long getNumber();

        String getCells();
    }

    @Query(value = """
                    select number as number, cast(cells as text) as cells, said as said from import_row
                    where job_id = :job and fate = 'FAULTY' order by number""", nativeQuery = true)
    List<Faulty> faulty(long job);

    interface Faulty {
        long getNumber();

        String getCells();

        @Nullable
        String getSaid();
    }

    /** @param decided a JSON array of objects: the number of a row, its fate and what is said of it */
    @Modifying
    @Query(value = """
                    update import_row i set fate = r ->> 'fate', said = r ->> 'said'
                    from jsonb_array_elements(cast(:decided as jsonb)) r
                    where i.job_id = :job and i.number = cast(r ->> 'number' as bigint)""", nativeQuery = true)
    void decide(long job, String decided);

    @Query(value = """
                    select fate as fate, count(*) as many from import_row
                    where job_id = :job and fate is not null group by fate""", nativeQuery = true)
    List<Count> counts(long job);

    @Query(value = "select count(*) from import_row where job_id = :job and fate is null", nativeQuery = true)
    int countLeft(long job);

    /** Those of some rows, a JSON array of numbers, that are not decided yet. */
    @Query(value = """
                    select number from import_row
                    where job_id = :job and fate is null
                      and number in (select cast(n as bigint) from jsonb_array_elements_text(cast(:rows as jsonb)) n)""", nativeQuery = true)
    List<Long> undecided(long job, String rows);

    interface Count {
        String getFate();

        int getMany();
    }

    /** @param people a JSON array of keys; of rows that name one of them nothing is left but their fate */
    @Modifying
    @Query(value = """
                    update import_row set said = '',
                      cells = (select coalesce(jsonb_agg(cast('' as text)), '[]') from jsonb_array_elements(cells))
                    where names_any(cast(cells as text), cast(:people as jsonb))""", nativeQuery = true)
    void forgetPeople(String people);
}
