-- What could not be read for a reason that may pass is read again later.
alter table content add column tries int not null default 0;
alter table content add column retry_at timestamptz;

-- Rises with whatever is recorded of a document, in the same transaction.
alter table document add column revision bigint not null default 0;

drop trigger copy_changes on copy;
drop trigger state_changes on state;
drop trigger state_entry_changes on state_entry;
drop trigger content_changes on content;
drop function count_change();
drop sequence change_count;

-- All long work: asked for once, told as it goes, taken up again after a stop.
create table job (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  kind text not null,
  key text not null,
  node text not null,
  lane text not null,
  state text not null,
  person text not null,
  request text not null,
  progress double precision,
  words text,
  result text,
  problem text,
  attempt int not null default 0,
  cancelled boolean not null default false,
  lease timestamptz,
  created timestamptz not null,
  begun timestamptz,
  ended timestamptz
);
create unique index job_under_way on job (kind, md5(key)) where state in ('WAITING', 'RUNNING');
create index job_newest on job (created desc);
