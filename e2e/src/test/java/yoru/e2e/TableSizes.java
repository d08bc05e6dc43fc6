package yoru.e2e;

import yoru.e2e.School.Part;

/** What Yoru's tables take in disk, with their indexes. */
final class TableSizes {

    private TableSizes() {}

    /** Those of more than a megabyte, the largest first, and how many rows of each are dead. */
    static String of(School school) {
        school.change(Part.SERVER, "analyze");
        return String.join(", ", school.rows(Part.SERVER, """
                select relname || ' ' || (pg_total_relation_size(relid) / 1000000) || ' MB (' || n_live_tup || ' rows, ' || n_dead_tup || ' dead)'
                from pg_stat_user_tables where pg_total_relation_size(relid) > 1000000 order by pg_total_relation_size(relid) desc"""));
    }
}
