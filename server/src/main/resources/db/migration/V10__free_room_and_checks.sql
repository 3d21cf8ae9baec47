-- How much was free on each disk, looked at every few minutes, for a day back.
create table free_room (
  id bigint generated always as identity primary key,
  device text not null,
  -- of the whole disk: another disk under the same number is another disk
  capacity bigint not null,
  seen timestamptz not null,
  free bigint not null
);
create index free_room_seen on free_room (seen);

-- Which edition of the checks judged a content; what an older one judged is read again.
alter table content add column checks integer not null default 0;
