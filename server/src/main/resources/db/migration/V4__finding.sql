-- Where a state stands among the others, by its evidence. Null until it was put in order.
alter table state add column work_at bigint;
alter table state add column told_by text;
-- What contradicts, in words, as JSON; null if nothing does.
alter table state add column contradictions text;
alter table state add column order_known boolean not null default true;

-- Files found by a search that belong to a document by their name or content. One that a person
-- refused stays refused, whatever its content is called later.
create table stray (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  document_id bigint not null references document,
  content text not null,
  path text not null,
  size bigint not null,
  modified bigint not null,
  tied_by text not null check (tied_by in ('NAME', 'CONTENT')),
  kind text not null,
  share double precision not null,
  words text not null,
  standing text not null check (standing in ('OPEN', 'ACCEPTED', 'REFUSED')),
  found timestamptz not null,
  decided timestamptz,
  who text,
  unique (document_id, content, path)
);
create index stray_document on stray (document_id);

-- A search through places, with where was looked.
create table search (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  started timestamptz not null,
  ended timestamptz,
  folders bigint not null,
  files bigint not null,
  read_files bigint not null,
  read_bytes bigint not null,
  found bigint not null,
  cancelled boolean not null default false,
  problem text,
  looked text not null
);
