-- What each system is to show at a door or after buying, and what it answered.
create table shown_sign (
    connection_id text not null references connection (id),
    -- the path of the place
    place text not null,
    -- what it is to show; none = nothing of Yoru's
    wanted jsonb,
    revision int not null,
    state text not null,
    attempts int not null,
    next_try_at timestamptz,
    answer text,
    answered_at timestamptz,
    -- whether it showed something else when it was last looked at
    differs boolean not null default false,
    primary key (connection_id, place)
);

-- What answered last at the addresses that doors lead to: HTTP statuses, 0 = nothing.
create table door_address (
    address text primary key,
    status int not null,
    asked_at timestamptz not null
);

-- My page, under a link in letters, and letting guests in who prove their address.
alter table policy add column own_page boolean not null default true;
alter table policy add column guests_prove boolean not null default false;

-- Up to when the links to somebody's own page no longer lead there.
create table own_page (
    person_id bigint primary key references person (id),
    revoked_at timestamptz,
    helped_at timestamptz,
    address_asked_at timestamptz
);
