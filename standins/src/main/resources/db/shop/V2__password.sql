insert into setting values ('passwords', true);
