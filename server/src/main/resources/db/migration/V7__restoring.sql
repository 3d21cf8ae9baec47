-- Several restores that are one: all are done or none.
create table restore_group (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  project_id bigint not null references project (id),
  made timestamptz not null,
  who text not null,
  what text not null,
  ops text not null,
  undoes uuid,
  done boolean,
  told text not null default ''
);
create index on restore_group (project_id, made desc);

-- A crash on purpose, and what came back.
create table rehearsal (
  id bigint generated always as identity primary key,
  uuid uuid not null unique,
  project_id bigint not null references project (id),
  document_id bigint not null references document (id),
  made timestamptz not null,
  body text not null
);
create index on rehearsal (document_id, made desc);
