-- Failures to sign in are counted by address and place, whether or not somebody has the address.

create table failed_sign_in (
  -- digest of what is counted together
  about text primary key,
  failures int not null,
  last_at timestamptz not null
);

-- no longer used; a server of the version before may still write them
alter table operator alter column failures set default 0;

-- Whoever makes the owner's account must have read what the start printed.
create table first_code (
  hash text primary key,
  made_at timestamptz not null
);

-- nobody can sign in with what is not set yet
alter table operator alter column password_hash drop not null;

-- What lets somebody set a password of their own: an invitation, or a letter to who has forgotten theirs.
create table password_code (
  hash text primary key,
  operator_id uuid not null references operator (id) on delete cascade,
  until timestamptz not null
);
create index password_code_operator on password_code (operator_id);

-- a second factor
alter table operator
  add column factor_secret bytea,
  add column factor_since timestamptz,
  add column factor_step bigint not null default 0,
  add column spare_codes text;

-- who did it, whatever they are called now: their account and its address then
alter table journal_entry
  add column account_id uuid,
  add column account_address text;

-- a calendar ends with the account of whoever made it
alter table calendar_feed add column account_id uuid;
