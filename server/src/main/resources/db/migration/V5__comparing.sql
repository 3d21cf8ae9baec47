-- By which version of the comparison it was made; others are made again.
alter table comparison add column made_by integer not null default 0;
