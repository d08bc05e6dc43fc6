-- A school's own words for the letters that Yoru writes by itself; where there is no row, those that it ships with.
create table letter_wording (
    kind text primary key,
    subject text not null,
    text text not null,
    changed_by text not null,
    changed_at timestamptz not null
);

-- A discount code that is good for all products says so by naming none; an empty list is good for nothing.
update followup_step set said = said #- '{code,products}' where said -> 'code' -> 'products' = '[]'::jsonb;
