-- People who sign in by a password, and what each of them may.

alter table person add column password_hash text;
alter table person add column created timestamptz;
alter table person add column removed timestamptz;

-- Whoever was let in before people had roles was the one person of this machine.
create table role_grant (
  id bigint generated always as identity primary key,
  person_id bigint not null references person,
  -- null: every project there is and will be
  project uuid,
  role text not null check (role in ('LOOK', 'RESTORE', 'PLAN', 'ADMINISTER')),
  granted timestamptz not null,
  granted_by text not null
);
create unique index role_grant_once on role_grant (person_id, coalesce(project, '00000000-0000-0000-0000-000000000000'));

insert into role_grant (person_id, project, role, granted, granted_by)
  select id, null, 'ADMINISTER', now(), name from person;

alter table session add column uuid uuid;
update session set uuid = gen_random_uuid();
alter table session alter column uuid set not null;
alter table session add column seen_from text not null default '';
alter table session add column browser text not null default '';

create table invitation (
  token_hash text primary key,
  person_id bigint not null references person,
  created timestamptz not null,
  created_by text not null,
  used timestamptz
);
