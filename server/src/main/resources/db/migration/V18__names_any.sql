-- Whether a text names one of some people, a JSON array of their keys, however it writes them.

create function names_any(said text, people jsonb) returns boolean language sql immutable as $$
  select exists (select 1 from jsonb_array_elements_text(people) one where position(lower(one) in lower(said)) > 0)
$$;
