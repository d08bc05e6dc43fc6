create table member (
  id text primary key, user_name text not null unique, name text not null, active boolean not null, made_at timestamptz not null
);
create table place (id text primary key, kind text not null check (kind in ('Groups', 'Areas')), title text not null, position serial);
create table membership (
  place text not null references place (id), member text not null references member (id), primary key (place, member)
);
create index membership_member on membership (member);

insert into place (id, kind, title) values ('study-circle', 'Groups', 'Study circle'), ('queen-breeders', 'Groups', 'Queen breeders'),
  ('queen-rearing-talk', 'Areas', 'Queen Rearing talk'), ('members-hall', 'Areas', 'Members'' hall');
insert into member values ('m-orla', 'orla.brannock@post.example', 'Orla Brannock', true, now()),
  ('m-jutta', 'jutta.weyland@letter.example', 'Jutta Weyland', true, now());
insert into membership values ('study-circle', 'm-orla'), ('queen-rearing-talk', 'm-jutta');
