-- Words and identities as in the heart; bigint keys inside, UUIDs outside.
-- File times are nanoseconds since 1970 (bigint), service events timestamptz.

create table person (
  id bigint generated always as identity primary key,
  name text not null unique
);

create table session (
  token_hash text primary key,
  person_id bigint not null references person,
  created timestamptz not null,
  last_used timestamptz not null
);

create table entry_link (
  token_hash text primary key,
  person_id bigint not null references person,
  created timestamptz not null,
  used boolean not null default false
);

create table place (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  node text not null,
  path text not null unique,
  role text not null check (role in ('WORK', 'RECOVERY', 'PROGRAM', 'SETTINGS')),
  zone text not null,
  created timestamptz not null
);

-- How far a recovery folder's journal has been taken into these records.
create table journal_cursor (
  place_id bigint primary key references place,
  position bigint not null,
  head_digest text not null,
  disagreement text
);

create table project (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  name text not null,
  slug text not null,
  work_place_id bigint not null references place,
  recovery_place_id bigint references place,
  rule text not null,
  program text not null,
  plan text not null,
  version bigint not null,
  changed_by text,
  changed timestamptz not null
);

create table document (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  project_id bigint not null references project,
  rel_path text not null,
  unique (project_id, rel_path)
);

create table content (
  id bigint generated always as identity primary key,
  length bigint not null,
  xxh3_128 text not null,
  ext text not null,
  verdict text,
  findings text,
  inventory text,
  unique (length, xxh3_128, ext)
);

create table state (
  id bigint generated always as identity primary key,
  document_id bigint not null references document,
  manifest_digest text not null,
  work_lo bigint not null,
  work_hi bigint not null,
  unique (document_id, manifest_digest)
);

create table state_entry (
  id bigint generated always as identity primary key,
  state_id bigint not null references state,
  role text not null,
  rel_path text not null,
  content_id bigint not null references content,
  unique (state_id, role, rel_path)
);

create table copy (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  document_id bigint not null references document,
  state_id bigint not null references state,
  content_id bigint not null references content,
  place_id bigint not null references place,
  rel_path text not null,
  source_kind text not null,
  origin_kind text not null,
  origin_path text not null,
  fidelity text not null default 'FULL',
  settled boolean not null,
  sequence bigint not null,
  cause text not null,
  note text,
  modified bigint not null,
  file_key text,
  since timestamptz not null,
  gone timestamptz,
  bin_path text,
  fault text
);
create index copy_document on copy (document_id);
create index copy_content on copy (content_id);
create unique index copy_stands on copy (place_id, rel_path) where gone is null;

-- The live file of a document from one write to the next.
create table activity (
  id bigint generated always as identity primary key,
  document_id bigint not null references document,
  modified bigint not null,
  noticed timestamptz not null,
  size bigint not null,
  content_id bigint references content,
  unique (document_id, modified, size)
);

create table state_mark (
  id bigint generated always as identity primary key,
  document_id bigint not null references document,
  manifest_digest text not null,
  mark text not null,
  who text,
  note text,
  made timestamptz not null,
  unique (document_id, manifest_digest, mark)
);

create table incident (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  project_id bigint not null references project,
  documents text not null,
  span_from timestamptz not null,
  span_to timestamptz not null,
  kind text not null,
  evidence text not null,
  open boolean not null
);

create table watching (
  id bigint generated always as identity primary key,
  place_id bigint not null references place,
  since timestamptz not null,
  until timestamptz not null,
  unique (place_id, since)
);

create table receipt (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  document_id bigint not null references document,
  made timestamptz not null,
  body text not null
);

create table comparison (
  id bigint generated always as identity primary key,
  content_a text not null,
  content_b text not null,
  body text not null,
  unique (content_a, content_b)
);

