-- Another number with each password that an account gets: sessions begun with an earlier one have ended.

alter table operator add column password_stamp int not null default 0;
