-- What people sign in with instead of a password (W3C Web Authentication): the public half of a key pair whose other half
-- never leaves their device.
create table passkey (
    id uuid primary key,
    operator_id uuid not null references operator (id) on delete cascade,
    -- as the operator calls the device
    name text not null,
    -- the relying party's id: the host of the school's address when it was made; it is good for no other
    host text not null,
    credential_id bytea not null unique,
    public_key bytea not null,
    attestation bytea not null,
    transports text not null,
    signature_count bigint not null,
    backup_eligible boolean not null,
    backed_up boolean not null,
    added_at timestamptz not null,
    used_at timestamptz
);
create index passkey_operator on passkey (operator_id);
