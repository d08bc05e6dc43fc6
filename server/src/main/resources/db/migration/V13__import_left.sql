-- What of an import is still to be done is asked often, and is nothing once it is done.

create index import_row_left on import_row (job_id, number) where fate is null;
