create table contact (email text primary key, name text not null);
create table tag (id text primary key, title text not null);
create table list (id text primary key, title text not null);
-- what a contact has: tags and places on lists
create table mark (
  email text not null references contact (email), kind text not null check (kind in ('tag', 'list')), id text not null,
  state text not null check (state in ('on', 'off')), revision integer not null, primary key (email, kind, id)
);
create index mark_thing on mark (kind, id);
create table field (email text not null references contact (email), name text not null, said text not null, primary key (email, name));
create table answer (key text primary key, said text not null);
create table outbox (
  id bigint generated always as identity primary key, event_id text not null, body text not null,
  attempts integer not null default 0, next_at timestamptz not null default now(), sent_at timestamptz, last_answer text
);
create index outbox_due on outbox (id) where sent_at is null;

insert into tag values ('bought-queen-rearing', 'Bought Queen Rearing'), ('bought-first-hive', 'Bought First Hive'),
  ('open-day-guest', 'Guest of the open day'), ('likes-mead', 'Likes mead');
insert into list values ('newsletter', 'Newsletter'), ('season-letter', 'Letter of the season');
insert into contact values ('orla.brannock@post.example', 'Orla Brannock'), ('jutta.weyland@letter.example', 'Jutta Weyland');
insert into mark values ('orla.brannock@post.example', 'tag', 'likes-mead', 'on', 0),
  ('jutta.weyland@letter.example', 'tag', 'bought-queen-rearing', 'on', 0),
  ('jutta.weyland@letter.example', 'list', 'newsletter', 'on', 0);
